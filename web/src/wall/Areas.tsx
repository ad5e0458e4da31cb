import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type ReactNode, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { JointCard, WallArea } from "../api/types";
import classes from "./wall.module.css";
import { tr } from "../words/words";

/** The least width of a card and the space between two, px: as the style sheet has them. */
const CARD = 270;
const GAP = 10;

/** Rows drawn beyond the screen: of a small outage all, so that it can be searched on the page; of a large one few. */
const beyond = (rows: number) => (rows < 60 ? rows : 5);

type Row = { area: WallArea } | { cards: JointCard[] };

/** All joints by area. Only the rows near the screen are there, so that thousands scroll as lightly as tens. */
export function Areas({ areas, card }: { areas: WallArea[]; card: (j: JointCard) => ReactNode }) {
  const list = useRef<HTMLDivElement>(null);
  const [columns, setColumns] = useState(3);
  const [margin, setMargin] = useState(0);
  useLayoutEffect(() => {
    const el = list.current!;
    const measure = () => {
      setColumns(Math.max(1, Math.floor((el.clientWidth + GAP) / (CARD + GAP))));
      setMargin(el.offsetTop);
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  const rows = useMemo(() => {
    const out: Row[] = [];
    for (const area of areas) {
      out.push({ area });
      for (let i = 0; i < area.joints.length; i += columns) out.push({ cards: area.joints.slice(i, i + columns) });
    }
    return out;
  }, [areas, columns]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current?.closest<HTMLElement>("[data-scrolls]") ?? null,
    estimateSize: (i) => ("area" in rows[i]! ? 52 : 109),
    overscan: beyond(rows.length),
    scrollMargin: margin,
  });
  return (
    <div ref={list} className={classes.rows} style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map((v) => {
        const row = rows[v.index]!;
        return (
          <div
            key={v.key}
            data-index={v.index}
            ref={virtual.measureElement}
            className={classes.virtualRow}
            style={{ transform: `translateY(${v.start - margin}px)` }}
          >
            <RowView row={row} columns={columns} card={card} />
          </div>
        );
      })}
    </div>
  );
}

/** One row. Scrolling moves it; it is drawn anew only when what it shows has changed. */
const RowView = memo(function RowView({ row, columns, card }: { row: Row; columns: number; card: (j: JointCard) => ReactNode }) {
  if ("area" in row) {
    return (
      <h2 className={classes.area}>
        {row.area.name} <span className="soft">{tr("{count} joints", { count: row.area.joints.length })}</span>
      </h2>
    );
  }
  return (
    <div className={classes.cards} style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
      {row.cards.map(card)}
    </div>
  );
});
