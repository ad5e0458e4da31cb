import { useState } from "react";
import type { DoneContent, Joint, Run, Step } from "../../api/types";
import { useWatched } from "../../app/context";
import { useKeys } from "../../app/keys";
import { Act } from "../../ui/Act";
import { Pin } from "../../ui/Pin";
import { article } from "../words";
import { told, tr } from "../../words/words";

/** The work waits until somebody has answered for a step, by name and PIN: here, or on a device of their own. */
export function Release({ joint, run, step }: { joint: Joint; run: Run; step: Step }) {
  const [asking, setAsking] = useState(false);
  const withPin = useWatched(joint.id, run.id, () => setAsking(false));
  const content: DoneContent = { kind: "done", step: step.id, release: true };
  useKeys({ " ": () => setAsking(true) });
  return (
    <>
      <p data-waits={step.release}>
        <b>{tr("The work waits for {release}", { release: article(step.release) })}</b>
        {step.release === "second person"
          ? tr(", who did not do this: they look, and say so by name.")
          : tr(": they look, and answer for it by name.")}
      </p>
      <Act
        act={tr("Released by {release}", { release: article(step.release) })}
        hint={tr("space bar; with their PIN")}
        kind="mind"
        onClick={() => setAsking(true)}
        data-act="release"
      />
      {asking && (
        <Pin
          by={step.release}
          title={tr("Released by {release}", { release: article(step.release) })}
          act={tr("I looked; it may go on")}
          {...withPin}
          onClose={() => {
            withPin.takeBack();
            setAsking(false);
          }}
          onPin={(pin, { as }) => withPin.send(content, { pin, as })}
        >
          <p>{told(step.text)}</p>
          {step.readings && <p className="mono">{told(step.readings)}</p>}
        </Pin>
      )}
    </>
  );
}
