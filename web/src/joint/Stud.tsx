import { Link } from "react-router";
import { TakeAlong } from "../along/TakeAlong";
import type { Joint } from "../api/types";
import { filled, hexagon } from "../drawing/geometry";
import classes from "./station.module.css";
import { tr } from "../words/words";

export const stations = [tr("Lay out"), tr("Tool up"), tr("Tighten"), tr("Prove"), tr("Sign")];

/** The five stations, as nuts on a stud. */
export function Stud({ joint, at }: { joint: Joint; at: number }) {
  const done = (n: number) => joint.station > n || joint.run?.standing === "signed";
  return (
    <nav className={classes.stud} aria-label={tr("Stations")}>
      <div className={classes.shank} aria-hidden="true" />
      {stations.map((name, i) => {
        const n = i + 1;
        return (
          <Link
            key={name}
            to={`/joint/${joint.id}/${n}`}
            className={classes.nut}
            data-at={at === n || undefined}
            data-done={done(n) || undefined}
            aria-current={at === n ? "page" : undefined}
          >
            <svg viewBox="-27 -25 54 50" width="52" height="48" aria-hidden="true">
              <polygon points={hexagon(25)} fill={done(n) ? "var(--held)" : "var(--panel)"} />
              {at === n && !done(n) && <polygon points={filled(25, 0.5)} fill="color-mix(in srgb, var(--now) 45%, var(--panel))" />}
              <polygon points={hexagon(25)} fill="none" stroke="currentColor" strokeWidth="2.6" />
              {done(n) ? <path d="M-8 0 L-2 6 L9 -6" fill="none" stroke="var(--panel)" strokeWidth="4" /> : <text dy="0.35em">{n}</text>}
            </svg>
            <span>{name}</span>
          </Link>
        );
      })}
      <TakeAlong joint={joint} />
    </nav>
  );
}
