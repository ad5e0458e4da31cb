import type { Run } from "../../api/types";
import { Bolt } from "../../drawing/Bolt";
import classes from "./tighten.module.css";

/** What the signs on the bolts mean, and how many locks are on. */
export function Signs({ run }: { run: Run }) {
  return (
    <ul className={classes.legend}>
      {run.legend.map((s) => (
        <li key={s.text}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={12} level={s.level} mark={s.mark} />
          </svg>
          {s.text}
        </li>
      ))}
      {run.lockable > 0 && (
        <li className={classes.locks}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={10} level={1} />
            <rect x="-6" y="9" width="12" height="4" className={classes.lockSign} />
          </svg>
          locked: {run.locks} of {run.lockable}
        </li>
      )}
    </ul>
  );
}
