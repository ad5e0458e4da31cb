import type { Group } from "../../api/types";
import { kilonewtons } from "../../ui/format";
import classes from "./layout.module.css";
import { tr } from "../../words/words";

const W = 560;

const held = (percent: number, on = "transparent") => `color-mix(in srgb, var(--held) ${percent}%, ${on})`;

/** The load a bolt will carry between what the gasket needs and what the bolt bears. */
export function LoadBar({ group: r }: { group: Group }) {
  const top = Math.max(r.limit, r.likelyHigh, r.needed) * 1.12;
  const x = (load: number) => (load / top) * W;
  const seat = x(r.needed);
  const limit = x(r.limit);
  const between = x(r.load) - seat > 130 && limit - x(r.load) > 130;
  const words = [
    tr("{load} kN a bolt, likely {likelyLow} to {likelyHigh} kN", {
      load: kilonewtons(r.load),
      likelyLow: kilonewtons(r.likelyLow),
      likelyHigh: kilonewtons(r.likelyHigh),
    }),
    r.needed > 0 ? tr("it must be {needed} kN at least", { needed: kilonewtons(r.needed) }) : "",
    r.limit > 0 ? tr("the bolt yields at {limit} kN", { limit: kilonewtons(r.limit) }) : "",
  ]
    .filter(Boolean)
    .join("; ");
  const clamp = (v: number) => Math.min(W - 62, Math.max(62, v));
  return (
    <svg viewBox={`0 0 ${W} 112`} className={classes.loadBar} role="img" aria-label={words}>
      <rect y="36" width={W} height="22" fill="var(--quiet)" />
      <rect x={Math.min(seat, limit)} y="36" width={Math.abs(limit - seat)} height="22" fill={held(20, "var(--panel)")} />
      <rect x={x(r.worstLow)} y="36" width={x(r.worstHigh) - x(r.worstLow)} height="22" fill={held(16)} />
      <rect x={x(r.likelyLow)} y="30" width={x(r.likelyHigh) - x(r.likelyLow)} height="34" fill={held(48)} />
      {r.needed > 0 && <line x1={seat} x2={seat} y1="32" y2="62" stroke="var(--mind)" strokeWidth="3" />}
      {r.limit > 0 && <line x1={limit} x2={limit} y1="32" y2="62" stroke="var(--stop)" strokeWidth="3" />}
      <line x1={x(r.load)} x2={x(r.load)} y1="24" y2="72" stroke="var(--held)" strokeWidth="4" />
      <text x={clamp(x(r.load))} y="16" fill="var(--ink)" fontSize="18" fontWeight="700">
        {kilonewtons(r.load)}
        {" kN"}
      </text>
      {r.needed > 0 && (
        <>
          <text x={clamp(seat)} y="84" fill="var(--mind)">
            {tr("at least")}
          </text>
          <text x={clamp(seat)} y="102" fill="var(--mind)">
            {kilonewtons(r.needed)}
            {" kN"}
          </text>
        </>
      )}
      {r.limit > 0 && (
        <>
          <text x={clamp(limit)} y="84" fill="var(--stop)">
            {tr("yields")}
          </text>
          <text x={clamp(limit)} y="102" fill="var(--stop)">
            {kilonewtons(r.limit)}
            {" kN"}
          </text>
        </>
      )}
      {between ? (
        <text x={x(r.load)} y="88" fill="var(--held)">
          {tr("likely {likelyLow} to {likelyHigh} kN", { likelyLow: kilonewtons(r.likelyLow), likelyHigh: kilonewtons(r.likelyHigh) })}
        </text>
      ) : (
        <text x={W} y="16" fill="var(--held)" style={{ textAnchor: "end" }}>
          {tr("likely {likelyLow} to {likelyHigh} kN", { likelyLow: kilonewtons(r.likelyLow), likelyHigh: kilonewtons(r.likelyHigh) })}
        </text>
      )}
    </svg>
  );
}
