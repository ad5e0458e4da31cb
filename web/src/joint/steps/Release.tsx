import { useState } from "react";
import type { DoneContent, Joint, Run, Step } from "../../api/types";
import { useWatched } from "../../app/context";
import { useKeys } from "../../app/keys";
import { Act } from "../../ui/Act";
import { Pin } from "../../ui/Pin";
import { article } from "../words";

/** The work waits until somebody has answered for a step, by name and PIN: here, or on a device of their own. */
export function Release({ joint, run, step }: { joint: Joint; run: Run; step: Step }) {
  const [asking, setAsking] = useState(false);
  const withPin = useWatched(joint.id, run.id, () => setAsking(false));
  const content: DoneContent = { kind: "done", step: step.id, release: true };
  useKeys({ " ": () => setAsking(true) });
  return (
    <>
      <p data-waits={step.release}>
        <b>The work waits for {article(step.release)}</b>
        {step.release === "second person"
          ? ", who did not do this: they look, and say so by name."
          : ": they look, and answer for it by name."}
      </p>
      <Act
        act={`Released by ${article(step.release)}`}
        hint="space bar; with their PIN"
        kind="mind"
        onClick={() => setAsking(true)}
        data-act="release"
      />
      {asking && (
        <Pin
          by={step.release}
          title={`Released by ${article(step.release)}`}
          act="I looked; it may go on"
          {...withPin}
          onClose={() => {
            withPin.takeBack();
            setAsking(false);
          }}
          onPin={(pin, { as }) => withPin.send(content, { pin, as })}
        >
          <p>{step.text}</p>
          {step.readings && <p className="mono">{step.readings}</p>}
        </Pin>
      )}
    </>
  );
}
