import { Group as Row, SegmentedControl } from "@mantine/core";
import { lazy, Suspense, useRef, useState } from "react";
import type { BenchTried } from "../api/types";
import { Panel } from "../ui/Panel";
import { tr } from "../words/words";
import classes from "./bench.module.css";
import { Saves } from "./Saves";
import { stagesOf } from "./words";

/** The library of charts comes when one is looked at. */
const Chart = lazy(() => import("./Chart"));

type Of = "lowest" | "highest" | "spread";

/** What happens pull by pull on the middle joint, the ways in one picture. */
export function Curves({ tried }: { tried: BenchTried[] }) {
  const [of, setOf] = useState<Of>("lowest");
  const box = useRef<HTMLDivElement>(null);
  const last = Math.max(...tried.map((t) => t.picture.moments.length));
  const names = tried.map((t, i) => tr("{n}: {way}", { n: i + 1, way: stagesOf(t.outcome.way) }));
  const data = Array.from({ length: last }, (_, i) => {
    const row: Record<string, number> = { pull: i + 1 };
    tried.forEach((t, k) => {
      const m = t.picture.moments[i];
      if (!m) return;
      const low = m.loads[m.lowest - 1]!;
      const high = m.loads[m.highest - 1]!;
      row[names[k]!] = (of === "lowest" ? low : of === "highest" ? high : high - low) / 1000;
    });
    return row;
  });
  return (
    <Panel>
      <Row justify="space-between" gap={12} mb={8}>
        <SegmentedControl
          value={of}
          onChange={(v) => setOf(v as Of)}
          size="md"
          data={[
            { value: "lowest", label: tr("lowest bolt") },
            { value: "highest", label: tr("highest bolt") },
            { value: "spread", label: tr("from lowest to highest") },
          ]}
        />
        <Saves name="pull-by-pull" box={box} rows={() => pullRows(tried)} />
      </Row>
      <div className={classes.chart} ref={box}>
        <Suspense fallback={<p className="soft">{tr("The chart is coming.")}</p>}>
          <Chart data={data} names={names} />
        </Suspense>
      </div>
    </Panel>
  );
}

/** Every load after every pull. */
function pullRows(tried: BenchTried[]) {
  const n = tried[0]?.picture.moments[0]?.loads.length ?? 0;
  return [
    ["way", "pull", "share %", "check round", "bolts", ...Array.from({ length: n }, (_, i) => `bolt ${i + 1} N`)],
    ...tried.flatMap((t) => t.picture.moments.map((m, i) => [t.outcome.words, i + 1, m.share, m.round, m.bolts.join(" "), ...m.loads])),
  ];
}
