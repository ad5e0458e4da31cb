import { Button, Menu } from "@mantine/core";
import { useState } from "react";
import type { BenchPicture, BenchStart, BenchTried, BenchTry, BenchWay } from "../api/types";
import { kilonewtons } from "../ui/format";
import { Say } from "../words/Say";
import { tr } from "../words/words";
import classes from "./bench.module.css";
import { Ring } from "./Ring";
import { Scrub, usePlay } from "./Scrub";
import { save, svgOf } from "./save";
import { WayDialog } from "./WayDialog";
import { same, stagesOf, wayLine } from "./words";

interface RingsProps {
  tried: BenchTried[];
  of: BenchTry;
  start: BenchStart;
  planned?: BenchWay;
  ways: BenchWay[];
  onWays: (w: BenchWay[]) => void;
  stale: boolean;
  /** What is below wants the room. */
  small: boolean;
}

/** The ways side by side, each the middle joint after so many pulls, and the pull that all are shown after. */
export function Rings({ tried, of, start, planned, ways, onWays, stale, small }: RingsProps) {
  const last = Math.max(...tried.map((t) => t.picture.moments.length));
  const { at, playing, play, to } = usePlay(last);
  const [edited, setEdited] = useState<number>();
  const scale = Math.max(...tried.map((t) => t.picture.scale));
  const closed = Math.max(...tried.map((t) => t.picture.closed));
  return (
    <section
      aria-label={tr("The ways, side by side")}
      className={classes.rings}
      data-stale={stale || undefined}
      data-small={small || undefined}
    >
      <div className={classes.cards}>
        {tried.map((t, i) => {
          const way = t.outcome.way;
          const words = stagesOf(way);
          return (
            <article key={i} className={classes.card} data-way={i + 1}>
              <header>
                <div>
                  <h2>
                    {words} {same(way, planned) && <span className="soft">{tr("(planned)")}</span>}
                  </h2>
                  <p className="soft">{wayLine(t.outcome)}</p>
                </div>
                <Menu position="bottom-end">
                  <Menu.Target>
                    <Button variant="default" aria-label={tr("Way {n}", { n: i + 1 })} px={14}>
                      {"⋯"}
                    </Button>
                  </Menu.Target>
                  <Menu.Dropdown>
                    <Menu.Item onClick={() => setEdited(i)}>{tr("Change this way")}</Menu.Item>
                    {ways.length > 1 && <Menu.Item onClick={() => onWays(ways.filter((_, k) => k !== i))}>{tr("Leave it out")}</Menu.Item>}
                    {ways.length < 3 && (
                      <Menu.Item onClick={() => onWays([...ways, { ...way, start: (way.start % of.subject.bolts) + 1 }])}>
                        {tr("Another beside it")}
                      </Menu.Item>
                    )}
                    <Menu.Item
                      onClick={() => {
                        const svg = document.querySelector<SVGSVGElement>(`[data-way="${i + 1}"] svg`);
                        if (svg) save(`ring-${i + 1}.svg`, "image/svg+xml", svgOf(svg));
                      }}
                    >
                      {tr("Save the picture (SVG)")}
                    </Menu.Item>
                  </Menu.Dropdown>
                </Menu>
              </header>
              <Ring picture={t.picture} load={of.subject.load} at={at} scale={scale} closed={closed} words={words} />
              <Moment picture={t.picture} at={at} />
            </article>
          );
        })}
      </div>
      <Scrub at={at} last={last} playing={playing} onPlay={play} onAt={to} />
      {!small && <Key />}
      {edited !== undefined && (
        <WayDialog
          way={ways[edited] ?? ways[0]!}
          bolts={of.subject.bolts}
          start={start}
          onClose={() => setEdited(undefined)}
          onChange={(w) => {
            onWays(ways.map((x, i) => (i === edited ? w : x)));
            setEdited(undefined);
          }}
        />
      )}
    </section>
  );
}

/** What a ring shows after its pull, in words. */
export function Moment({ picture: t, at }: { picture: BenchPicture; at: number }) {
  const m = at > 0 ? t.moments[Math.min(at, t.moments.length) - 1] : undefined;
  if (!m) return <p className={classes.moment}>{tr("Every nut is finger tight.")}</p>;
  return (
    <p className={classes.moment}>
      <b>{m.round > 0 ? tr("round {round}", { round: m.round }) : tr("{share} %", { share: m.share })}</b>
      {" · "}
      <Say
        of="lowest {low} kN at {lowest}, highest {high} kN at {highest}"
        with={{
          low: <span className="mono">{kilonewtons(m.loads[m.lowest - 1]!)}</span>,
          lowest: String(m.lowest),
          high: <span className="mono">{kilonewtons(m.loads[m.highest - 1]!)}</span>,
          highest: String(m.highest),
        }}
      />
    </p>
  );
}

export function Key() {
  return (
    <ul className={classes.key}>
      <li>
        <svg viewBox="0 0 28 14" width="28" height="14" aria-hidden>
          <rect y="2" width="28" height="10" className={classes.band} />
          <line x1="0" x2="28" y1="7" y2="7" className={classes.wanted} />
        </svg>
        {tr("needed to likely, and what is aimed at")}
      </li>
      {(["within", "low", "high", "coming"] as const).map((s) => (
        <li key={s}>
          <svg viewBox="0 0 14 18" width="14" height="18" aria-hidden data-standing={s}>
            <rect x="3" y={s === "coming" ? 9 : 6} width="8" height={s === "coming" ? 9 : 12} className={classes.bar} />
            {s === "high" && <path d="M1 5h12l-6 -5z" className={classes.bar} />}
            {s === "low" && <path d="M1 0h12l-6 5z" className={classes.bar} />}
          </svg>
          {{ within: tr("within"), low: tr("low"), high: tr("high"), coming: tr("not yet in full") }[s]}
        </li>
      ))}
      <li>
        <svg viewBox="0 0 20 20" width="18" height="18" aria-hidden>
          <circle cx="10" cy="10" r="9" className={classes.hub} />
          <ellipse cx="10" cy="10" rx="7" ry="5" className={classes.closure} />
        </svg>
        {tr("inside: how far it has closed")}
      </li>
    </ul>
  );
}
