import type { DrillTask } from "../../api/types";
import { FaceDrawing } from "../../drawing/faces/Face";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";
import { Typed } from "./Typed";

/** A tool that shows something: what is it? */
export function ReadIt({ task: f, judged, onAnswer }: TaskProps<NonNullable<DrillTask["face"]>>) {
  return (
    <div className={classes.side}>
      <div className={classes.faceOf} data-face={f.shows.kind}>
        <FaceDrawing face={f.shows} blind={tr("The face of {tool}, at a value that is to be read off it", { tool: f.tag })} />
        <p className="soft">
          {f.tag} · {told(f.name)}
        </p>
      </div>
      <div className={classes.hand}>
        <h2>{tr("What does it show?")}</h2>
        <Typed label={tr("In {unit}", { unit: f.unit })} act={tr("That is it")} judged={judged} onValue={(value) => onAnswer({ value })} />
      </div>
    </div>
  );
}
