import type { Figure, Mark } from "../api/types";
import { Bolt } from "./Bolt";
import { Shapes } from "./Figure";
import classes from "./drawing.module.css";

interface GlyphProps {
  figure?: Figure;
  /** As the figure's bolts. */
  levels?: number[];
  marks?: Mark[];
  size?: number;
}

/** A joint's drawing as its mark: small, without numbers. */
export function Glyph({ figure, levels = [], marks = [], size = 80 }: GlyphProps) {
  return (
    <svg viewBox="-114 -114 228 228" width={size} height={size} className={classes.glyph} aria-hidden="true">
      {figure ? <Shapes figure={figure} /> : <circle r={70} fill="none" stroke="var(--line)" strokeWidth="4" strokeDasharray="12 10" />}
      {figure?.bolts.map((b, i) => (
        <g key={`${b.group}/${b.bolt}`} transform={`translate(${b.x} ${b.y})`}>
          <Bolt r={b.r * 1.12} level={levels[i] ?? 0} mark={marks[i] ?? "none"} />
        </g>
      ))}
    </svg>
  );
}
