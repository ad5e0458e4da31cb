import type { ReactNode } from "react";
import type { Figure as Drawing, Mark } from "../api/types";
import { Bolt } from "./Bolt";
import classes from "./drawing.module.css";
import { at, RIM } from "./geometry";
import { told } from "../words/words";

export interface FigureBolt {
  level?: number;
  current?: boolean;
  mark?: Mark;
  label?: string | number;
  /** Its lock is on. */
  locked?: boolean;
}

export interface FigureProps {
  figure: Drawing;
  title: string;
  /** What is known of a bolt, by its key. */
  bolts?: Map<string, FigureBolt>;
  next?: string;
  then?: string;
  /** Keys in the order they are turned, a line for each group. */
  paths?: string[][];
  /** Keys of bolts that are pointed at: those a sample is measured of. */
  marked?: string[];
  /** Keys of bolts that carry a tensioner. */
  carries?: string[];
  /** Keys of bolts that others are on, with the tools that work at the same time. */
  others?: string[];
  /** Bolts of other groups stand back. */
  group?: string;
  /** All bolts stand back: something is read over them. */
  back?: boolean;
  children?: ReactNode;
}

/** A bolt's key on a figure. */
export const boltKey = (group: string, bolt: number) => `${group}/${bolt}`;

/** A joint of any kind from the nut side, placed by the server. */
export function Figure({ figure, title, bolts, next, then, paths, marked, carries, others, group, back, children }: FigureProps) {
  const place = new Map(figure.bolts.map((b) => [boltKey(b.group, b.bolt), b]));
  const sizes = new Map<string, number>();
  for (const b of figure.bolts) sizes.set(b.group, (sizes.get(b.group) ?? 0) + 1);
  const last = next ? place.get(next) : undefined;
  const toward = then && then !== next ? place.get(then) : undefined;
  return (
    <svg viewBox="-114 -116 228 232" className={classes.ring} role="img" aria-label={title}>
      <Shapes figure={figure} />
      {paths?.map((p) => (
        <polyline
          key={p[0]}
          points={p
            .map((k) => place.get(k))
            .map((b) => (b ? `${(b.x * 0.88).toFixed(1)},${(b.y * 0.88).toFixed(1)}` : ""))
            .join(" ")}
          fill="none"
          stroke="var(--plan)"
          strokeWidth="0.4"
          strokeOpacity="0.45"
        />
      ))}
      {last && toward && <line {...between(last, toward)} stroke="var(--plan)" strokeWidth="0.9" strokeDasharray="3 2.2" />}
      {figure.clock &&
        [12, 3, 6, 9].map((h) => {
          const p = at((h * Math.PI) / 6, RIM + 7);
          return (
            <text key={h} x={p.x} y={p.y} dy="0.35em" fontSize="6.5" textAnchor="middle" fill="var(--soft)">
              {h}
            </text>
          );
        })}
      {figure.labels.map((l) => (
        <text key={l.text} x={l.x} y={l.y} className={classes.groupLabel} data-on={l.text === group || undefined}>
          {told(l.text)}
        </text>
      ))}
      {figure.bolts.map((b) => {
        const key = boltKey(b.group, b.bolt);
        const known = bolts?.get(key);
        const state = key === next ? "next" : key === then ? "then" : "none";
        return (
          <g
            key={key}
            transform={`translate(${b.x} ${b.y})`}
            data-next={key === next ? b.bolt : undefined}
            data-bolt={key}
            opacity={back ? 0.3 : group && b.group !== group ? 0.55 : undefined}
          >
            <Bolt
              r={key === next ? Math.max(b.r, 6) : b.r}
              {...known}
              label={sizes.get(b.group) === 1 ? undefined : (known?.label ?? b.bolt)}
              state={state}
            />
            {others?.includes(key) && (
              <circle r={b.r * 1.34} fill="none" stroke="var(--plan)" strokeWidth="1.8" strokeDasharray="3.4 2.2" data-other={b.bolt} />
            )}
            {carries?.includes(key) && <Puller r={b.r} />}
            {marked?.includes(key) && <circle r={b.r * 1.32} fill="none" stroke="var(--now)" strokeWidth="2.5" />}
            {known?.locked && (
              <rect
                x={-b.r * 0.62}
                y={b.r * 0.98}
                width={b.r * 1.24}
                height={b.r * 0.3}
                fill="var(--held)"
                stroke="var(--panel)"
                strokeWidth="0.4"
              />
            )}
          </g>
        );
      })}
      {children}
    </svg>
  );
}

/** A tensioner over a bolt, from above: its bridge, and the lugs that it stands on. */
function Puller({ r }: { r: number }) {
  const a = r * 1.28;
  return (
    <g fill="none" stroke="var(--now)" strokeWidth="2" data-carries>
      <rect x={-a} y={-a} width={2 * a} height={2 * a} rx={r * 0.3} />
      {[0, 90, 180, 270].map((d) => (
        <rect
          key={d}
          x={-r * 0.3}
          y={-a - r * 0.22}
          width={r * 0.6}
          height={r * 0.34}
          fill="var(--now)"
          stroke="none"
          transform={`rotate(${d})`}
        />
      ))}
    </g>
  );
}

/** What the bolts stand on. */
export function Shapes({ figure }: { figure: Drawing }) {
  return figure.shapes.map((s, i) => {
    const key = `${s.role}${i}`;
    return s.r > 0 ? (
      <circle key={key} cx={s.x} cy={s.y} r={s.r} className={classes.shape} data-role={s.role} />
    ) : (
      <rect key={key} x={s.x} y={s.y} width={s.w} height={s.h} rx="2" className={classes.shape} data-role={s.role} />
    );
  });
}

/** A line between two bolts, short of both. */
function between(a: { x: number; y: number; r: number }, b: { x: number; y: number; r: number }) {
  const d = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const u = { x: (b.x - a.x) / d, y: (b.y - a.y) / d };
  return { x1: a.x + u.x * a.r * 1.7, y1: a.y + u.y * a.r * 1.7, x2: b.x - u.x * b.r * 1.1, y2: b.y - u.y * b.r * 1.1 };
}
