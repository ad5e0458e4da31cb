import type { ReactNode } from "react";
import type { Mark } from "../api/types";
import { Bolt } from "./Bolt";
import { at, bolt, CIRCLE, RIM, size } from "./geometry";
import classes from "./drawing.module.css";

export interface RingBolt {
  position: number;
  level?: number;
  current?: boolean;
  mark?: Mark;
}

export interface RingProps {
  bolts: RingBolt[];
  onCentre?: boolean;
  /** What to write on each bolt, by position; its position when left out. */
  labels?: Map<number, number>;
  next?: number;
  then?: number;
  /** Positions in the order they are turned, drawn as thin lines. */
  path?: number[];
  /** Gasket radii, the bolt circle's being 1. */
  gasket?: { outer: number; inner: number };
  clock?: boolean;
  title: string;
  children?: ReactNode;
}

/** The joint from the nut side, 12 o'clock at the top. */
export function Ring({ bolts, onCentre = false, labels, next, then, path, gasket, clock, title, children }: RingProps) {
  const n = bolts.length;
  const r = size(n);
  const place = (p: number, radius = CIRCLE) => at(bolt(p, n, onCentre), radius);
  const inner = CIRCLE - r * 1.9;
  const last = bolts.find((b) => b.position === next);
  return (
    <svg viewBox="-112 -112 224 224" className={classes.ring} role="img" aria-label={title}>
      <circle r={RIM} className={classes.flange} />
      <circle r={CIRCLE} className={classes.circle} />
      {gasket && (
        <>
          <circle r={Math.min(inner, gasket.outer * CIRCLE)} className={classes.gasket} />
          <circle r={Math.min(inner * 0.96, gasket.inner * CIRCLE)} className={classes.bore} />
        </>
      )}
      {!gasket && <circle r={Math.min(inner, 58)} className={classes.bore} />}
      {path && <polyline points={path.map((p) => place(p, CIRCLE - r * 1.15)).map((q) => `${q.x.toFixed(2)},${q.y.toFixed(2)}`).join(" ")} className={classes.path} />}
      {next && then && next !== then && <line {...between(place(next), place(then), r)} className={classes.toward} />}
      {clock &&
        [12, 3, 6, 9].map((h) => {
          const p = at((h * Math.PI) / 6, RIM + 6.5);
          return (
            <text key={h} x={p.x} y={p.y} dy="0.35em" className={classes.hour}>
              {h}
            </text>
          );
        })}
      {bolts.map((b) => {
        if (b === last) return null;
        const p = place(b.position);
        return (
          <g key={b.position} transform={`translate(${p.x.toFixed(2)} ${p.y.toFixed(2)})`}>
            <Bolt r={r} {...b} label={labels?.get(b.position) ?? b.position} state={b.position === then ? "then" : "none"} />
          </g>
        );
      })}
      {last && (
        <g transform={`translate(${place(last.position).x.toFixed(2)} ${place(last.position).y.toFixed(2)})`} data-next={last.position}>
          <Bolt r={Math.max(r, 7)} {...last} label={labels?.get(last.position) ?? last.position} state="next" />
        </g>
      )}
      {children}
    </svg>
  );
}

/** A line between two bolts, short of both. */
function between(a: { x: number; y: number }, b: { x: number; y: number }, r: number) {
  const d = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const u = { x: (b.x - a.x) / d, y: (b.y - a.y) / d };
  return { x1: a.x + u.x * r * 1.7, y1: a.y + u.y * r * 1.7, x2: b.x - u.x * r * 1.1, y2: b.y - u.y * r * 1.1 };
}
