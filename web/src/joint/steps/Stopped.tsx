import { Button, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMay } from "../../api/queries";
import type { Joint, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { Act } from "../../ui/Act";
import { dateTime } from "../../ui/format";
import { Form } from "../../ui/Form";
import { Panel } from "../../ui/Panel";
import { Doubts } from "../doubts/Doubts";
import { told, tr } from "../../words/words";

interface StoppedProps {
  joint: Joint;
  run: Run;
}

/** What keeps a run from going on: a pause, tools in doubt, or something that an engineer decides. */
export function Stopped({ joint, run }: StoppedProps) {
  const record = useRecord(joint.id, run.id);
  const fitter = useMay("fitter");
  const resume = run.paused && fitter ? () => record({ kind: "resume" }) : undefined;
  useKeys(resume ? { " ": resume } : {});
  return (
    <>
      {run.paused && (
        <Panel kind="mind" title={tr("Paused")}>
          <p className="big">{tr("by {by}, {at}. {note}", { by: run.paused.by, at: dateTime(run.paused.at), note: run.paused.note })}</p>
          {run.paused.handOverTo && <p>{tr("For {handOverTo}.", { handOverTo: run.paused.handOverTo })}</p>}
          {run.next && <p>{tr("Then: {next}.", { next: told(run.next.words) })}</p>}
          {resume && <Act act={tr("Take it up")} hint={tr("space bar")} onClick={resume} data-act="resume" />}
        </Panel>
      )}
      {run.standing === "stopped" && !run.paused && (
        <Panel kind="stop" title={tr("Stopped")}>
          <p className="big">{told(run.stop)}</p>
          <Reasoned label={tr("Why it may go on")} act={tr("Let it go on")} onReason={(reason) => record({ kind: "decision", reason })} />
        </Panel>
      )}
      <Doubts joint={joint} run={run} />
    </>
  );
}

/** A reason that an engineer gives; others see who is to be asked. */
export function Reasoned({ label, act, onReason }: { label: string; act: string; onReason: (reason: string) => void }) {
  const engineer = useMay("engineer");
  const [reason, setReason] = useInputState("");
  if (!engineer) {
    return (
      <p>
        <b>{tr("An engineer decides.")}</b>
      </p>
    );
  }
  return (
    <Form
      onSend={() => {
        onReason(reason.trim());
        setReason("");
      }}
    >
      <Textarea label={label} name="decision" value={reason} onChange={setReason} minRows={2} />
      <Button type="submit" color="now" disabled={reason.trim() === ""}>
        {act}
      </Button>
    </Form>
  );
}
