import type { JobStep } from "../../api/types";
import { CautionSign } from "../../ui/CautionSign";
import { Panel } from "../../ui/Panel";
import classes from "./led.module.css";

/** The cautions of a step, read once a run by each person before anything else of it. */
export function CautionPanel({ step, onRead }: { step: JobStep; onRead: () => void }) {
  const grave = step.cautions.some((c) => c.kind === "danger" || c.kind === "forbidden");
  return (
    <Panel kind={grave ? "stop" : "mind"} title="Before this step">
      <ul className={classes.cautions}>
        {step.cautions.map((c) => (
          <li key={c.text}>
            <CautionSign caution={c} />
          </li>
        ))}
      </ul>
      <p className={classes.next}>Then: {step.text}</p>
      <button type="button" className={classes.main} data-kind={grave ? "stop" : "mind"} onClick={onRead} data-act="caution">
        <b>Read, and it is so</b>
        <span>space bar</span>
      </button>
      <p className={classes.fine}>Dynacor does not replace the maker’s instructions, local codes, permits and qualified people.</p>
    </Panel>
  );
}
