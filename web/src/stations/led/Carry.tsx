import type { JobGroup } from "../../api/types";
import { kilonewtons, percent, torque } from "../../ui/format";
import classes from "./led.module.css";

/** What each bolt of a group will carry: the likely band, and where it yields. */
export function Carry({ group: g }: { group: JobGroup }) {
  if (g.torque === 0) return null;
  if (g.load === 0) {
    return (
      <p className={classes.carryWords}>
        <b className="mono">{torque(g.torque)} N·m</b> <span className="soft">give the thread, and the load it means is worked out</span>
      </p>
    );
  }
  const top = Math.max(g.limit, g.likelyHigh) * 1.05;
  const x = (v: number) => `${(100 * v) / top}%`;
  return (
    <div className={classes.carry}>
      <p className={classes.carryWords}>
        <b className="mono">{torque(g.torque)} N·m</b> is <b>{kilonewtons(g.load)} kN</b> a bolt
        <span className="soft">
          , likely {kilonewtons(g.likelyLow)} to {kilonewtons(g.likelyHigh)} kN{g.limit > 0 && `; yields at ${kilonewtons(g.limit)} kN, used to ${percent(g.utilisation)}\u00a0%`}
        </span>
      </p>
      <svg width="100%" height="14" className={classes.carryBar} aria-hidden="true">
        <rect width="100%" height="14" className={classes.carryAll} />
        <rect x={x(g.likelyLow)} width={`${(100 * (g.likelyHigh - g.likelyLow)) / top}%`} height="14" className={classes.carryLikely} />
        <rect x={x(g.load)} width="3" height="14" className={classes.carryAt} />
        {g.limit > 0 && <rect x={x(g.limit)} width="3" height="14" className={classes.carryLimit} />}
      </svg>
    </div>
  );
}
