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
        <Panel kind="mind" title="Paused">
          <p className="big">
            by {run.paused.by}, {dateTime(run.paused.at)}. {run.paused.note}
          </p>
          {run.paused.handOverTo && <p>For {run.paused.handOverTo}.</p>}
          {run.next && <p>Then: {run.next.words}.</p>}
          {resume && <Act act="Take it up" hint="space bar" onClick={resume} data-act="resume" />}
        </Panel>
      )}
      {run.standing === "stopped" && !run.paused && (
        <Panel kind="stop" title="Stopped">
          <p className="big">{run.stop}</p>
          <Reasoned label="Why it may go on" act="Let it go on" onReason={(reason) => record({ kind: "decision", reason })} />
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
        <b>An engineer decides.</b>
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
