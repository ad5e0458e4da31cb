import type { DrillTask } from "../../api/types";
import { number } from "../../ui/format";
import { tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";
import { Typed } from "./Typed";

/** A value in one unit; what is it in the other? */
export function Convert({ task: c, judged, onAnswer }: TaskProps<NonNullable<DrillTask["convert"]>>) {
  return (
    <div className={classes.side}>
      <div className={classes.chart}>
        <span className="soft">{tr("The chart says")}</span>
        <b className="mono">{number(c.value)}</b>
        <span>{c.from}</span>
      </div>
      <div className={classes.hand}>
        <h2>{tr("What is it in {unit}?", { unit: c.to })}</h2>
        <Typed
          label={tr("To one percent, in {unit}", { unit: c.to })}
          act={tr("That is it")}
          judged={judged}
          onValue={(value) => onAnswer({ value })}
        />
      </div>
    </div>
  );
}
