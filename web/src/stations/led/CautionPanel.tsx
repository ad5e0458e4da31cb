import type { JobStep } from "../../api/types";
import { Panel } from "../../ui/Panel";
import classes from "./led.module.css";

/** The cautions of a step, read once a run by each person before anything else of it. */
export function CautionPanel({ step, onRead }: { step: JobStep; onRead: () => void }) {
  return (
    <Panel kind="stop" title={<Caution />}>
      <ul className={classes.cautions}>
        {step.cautions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      <p className={classes.next}>Then: {step.text}</p>
      <button type="button" className={classes.main} data-kind="stop" onClick={onRead} data-act="caution">
        <b>Read, and it is so</b>
        <span>space bar</span>
      </button>
      <p className={classes.fine}>Dynacor does not replace the maker’s instructions, local codes, permits and qualified people.</p>
    </Panel>
  );
}

/** The sign of a caution: a shape and a word. */
function Caution() {
  return (
    <span className={classes.cautionSign}>
      <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
        <rect x="2" y="2" width="20" height="20" transform="rotate(45 12 12) scale(0.72) translate(4.7 4.7)" />
        <path d="M12 7 V13 M12 16 V17.4" />
      </svg>
      Caution
    </span>
  );
}
