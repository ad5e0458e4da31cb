import type { Step } from "../../api/types";
import { useKeys } from "../../app/keys";
import { CautionSign } from "../../ui/CautionSign";
import { Panel } from "../../ui/Panel";
import classes from "./steps.module.css";

/**
 * The cautions of a step, read once a run by each person before anything else of it. Their key is not the one that
 * pulls: a press too many must not read them.
 */
export function CautionPanel({ step, onRead }: { step: Step; onRead: () => void }) {
  useKeys({ c: onRead });
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
        <span>key C</span>
      </button>
      <p className={classes.fine}>Dynacor does not replace the maker’s instructions, local codes, permits and qualified people.</p>
    </Panel>
  );
}
