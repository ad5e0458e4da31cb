import { memo } from "react";
import type { Mark } from "../api/types";
import { filled, hexagon } from "./geometry";
import classes from "./drawing.module.css";

export interface BoltProps {
  r: number;
  label?: string | number;
  /** Share of the target reached, 0 to 1. */
  level?: number;
  /** Reached in the pass that is being made, or in an earlier one. */
  current?: boolean;
  mark?: Mark;
  state?: "next" | "then" | "none";
}

/** A bolt: a hexagon that fills like a glass, drawn about its own middle. After a pull all but two stay as they are. */
export const Bolt = memo(function Bolt({ r, label, level = 0, current = true, mark = "none", state = "none" }: BoltProps) {
  const R = state === "next" ? Math.min(r * 1.3, r + 7) : r;
  const h = (R * Math.sqrt(3)) / 2;
  return (
    <g data-state={state} data-mark={mark} className={classes.bolt}>
      {state === "next" && <circle r={Math.min(R * 1.32, R + 12)} className={classes.halo} />}
      <polygon points={hexagon(R)} fill="var(--glass)" />
      {level > 0 && (
        <polygon
          points={filled(R, level)}
          fill={level >= 1 || current ? "var(--glass-held)" : "var(--glass-plan)"}
          className={level >= 1 ? classes.full : classes.part}
        />
      )}
      <polygon points={hexagon(R)} className={classes.rim} />
      {label !== undefined && (
        <text className={classes.label} fontSize={R * (String(label).length > 2 ? 0.72 : 0.86)} dy="0.35em">
          {label}
        </text>
      )}
      {mark === "still" && <circle cy={h * 0.78} r={Math.max(0.7, R * 0.12)} fill="var(--ink)" />}
      {mark === "moved" && (
        <polygon
          points={`${-R * 0.28},${-h - R * 0.1} ${R * 0.28},${-h - R * 0.1} 0,${-h + R * 0.42}`}
          fill="var(--mind)"
          stroke="var(--panel)"
          strokeWidth="0.4"
        />
      )}
      {mark === "trouble" && (
        <line x1={-R * 1.05} x2={R * 1.05} y1={h * 0.62} y2={-h * 0.62} stroke="var(--stop)" strokeWidth="2.2" strokeLinecap="round" />
      )}
    </g>
  );
});
