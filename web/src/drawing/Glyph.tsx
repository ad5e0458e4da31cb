import type { JointCard } from "../api/types";
import { Bolt } from "./Bolt";
import { at, bolt, CIRCLE, size } from "./geometry";
import classes from "./drawing.module.css";

/** A joint's drawing as its mark: small, without numbers. */
export function Glyph({ card }: { card: Pick<JointCard, "bolts" | "onCentre" | "levels" | "marks" | "next" | "tag"> }) {
  const n = card.bolts || 8;
  const r = Math.min(size(n) * 1.25, CIRCLE * Math.sin(Math.PI / n) * 0.98);
  return (
    <svg viewBox="-104 -104 208 208" className={classes.glyph} aria-hidden="true">
      <circle r={CIRCLE - r * 1.7} className={card.bolts ? classes.glyphBore : classes.glyphNew} />
      {card.bolts > 0 &&
        Array.from({ length: n }, (_, i) => {
          const p = at(bolt(i + 1, n, card.onCentre), CIRCLE);
          return (
            <g key={i} transform={`translate(${p.x.toFixed(2)} ${p.y.toFixed(2)})`}>
              <Bolt r={r} level={card.levels[i] ?? 0} mark={card.marks[i] ?? "none"} />
            </g>
          );
        })}
    </svg>
  );
}
