import type { Group } from "../../api/types";
import { kilonewtons } from "../../ui/format";
import classes from "./layout.module.css";

const W = 560;

/** The load a bolt will carry between what the gasket needs and what the bolt bears. */
export function LoadBar({ group: r }: { group: Group }) {
  const top = Math.max(r.limit, r.likelyHigh, r.needed) * 1.12;
  const x = (load: number) => (load / top) * W;
  const seat = x(r.needed);
  const limit = x(r.limit);
  const between = x(r.load) - seat > 130 && limit - x(r.load) > 130;
  const words = [
    `${kilonewtons(r.load)} kN a bolt, likely ${kilonewtons(r.likelyLow)} to ${kilonewtons(r.likelyHigh)} kN`,
    r.needed > 0 ? `the gasket seats at ${kilonewtons(r.needed)} kN` : "",
    r.limit > 0 ? `the bolt yields at ${kilonewtons(r.limit)} kN` : "",
  ]
    .filter(Boolean)
    .join("; ");
  const clamp = (v: number) => Math.min(W - 62, Math.max(62, v));
  return (
    <svg viewBox={`0 0 ${W} 112`} className={classes.loadBar} role="img" aria-label={words}>
      <rect y="36" width={W} height="22" className={classes.outside} />
      <rect x={Math.min(seat, limit)} y="36" width={Math.abs(limit - seat)} height="22" className={classes.within} />
      <rect x={x(r.worstLow)} y="36" width={x(r.worstHigh) - x(r.worstLow)} height="22" className={classes.worst} />
      <rect x={x(r.likelyLow)} y="30" width={x(r.likelyHigh) - x(r.likelyLow)} height="34" className={classes.likely} />
      {r.needed > 0 && <line x1={seat} x2={seat} y1="32" y2="62" className={classes.seat} />}
      {r.limit > 0 && <line x1={limit} x2={limit} y1="32" y2="62" className={classes.limit} />}
      <line x1={x(r.load)} x2={x(r.load)} y1="24" y2="72" className={classes.load} />
      <text x={clamp(x(r.load))} y="16" className={classes.loadText}>
        {kilonewtons(r.load)} kN
      </text>
      {r.needed > 0 && (
        <>
          <text x={clamp(seat)} y="84" className={classes.seatText}>
            seats the gasket
          </text>
          <text x={clamp(seat)} y="102" className={classes.seatText}>
            {kilonewtons(r.needed)} kN
          </text>
        </>
      )}
      {r.limit > 0 && (
        <>
          <text x={clamp(limit)} y="84" className={classes.limitText}>
            yields
          </text>
          <text x={clamp(limit)} y="102" className={classes.limitText}>
            {kilonewtons(r.limit)} kN
          </text>
        </>
      )}
      {between ? (
        <text x={x(r.load)} y="88" className={classes.likelyText}>
          likely {kilonewtons(r.likelyLow)} to {kilonewtons(r.likelyHigh)} kN
        </text>
      ) : (
        <text x={W} y="16" className={classes.likelyText} style={{ textAnchor: "end" }}>
          likely {kilonewtons(r.likelyLow)} to {kilonewtons(r.likelyHigh)} kN
        </text>
      )}
    </svg>
  );
}
