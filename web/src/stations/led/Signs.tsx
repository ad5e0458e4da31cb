import type { JobAct, JobRun } from "../../api/types";
import { Bolt } from "../../drawing/Bolt";
import tighten from "../tighten/tighten.module.css";
import classes from "./led.module.css";

/** What the signs on the bolts mean, and how many locks are on. */
export function Signs({ run, next }: { run: JobRun; next?: JobAct }) {
  const round = (next?.round ?? 0) > 0;
  const portion = round && (next?.turn ?? 0) > 0;
  const signs = signsOf(run.undoes, round, portion);
  return (
    <ul className={tighten.legend}>
      {signs.map((s) => (
        <li key={s.text}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={12} level={s.level} mark={s.mark ?? "none"} />
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

function signsOf(undoes: boolean, round: boolean, portion: boolean): { text: string; level: number; mark?: "still" | "moved" }[] {
  if (portion) {
    return [
      { text: "turned, does not hold yet", level: 0.5 },
      { text: "clicked: holds", level: 1, mark: "still" },
    ];
  }
  if (round) {
    return [
      { text: "did not move", level: 1, mark: "still" },
      { text: "moved", level: 1, mark: "moved" },
    ];
  }
  if (undoes) {
    return [
      { text: "still holds", level: 1 },
      { text: "let go", level: 0 },
    ];
  }
  return [
    { text: "part of its value", level: 0.5 },
    { text: "holds", level: 1 },
  ];
}
