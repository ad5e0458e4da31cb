import { Button, Textarea } from "@mantine/core";
import { useState } from "react";
import { useMay, useSession } from "../../api/queries";
import type { JobRun, LedJoint } from "../../api/types";
import { useOutbox } from "../../app/context";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import classes from "./led.module.css";

/** What keeps a run from going on: a pause, or too many rounds that moved a nut. */
export function Stopped({ joint, run }: { joint: LedJoint; run: JobRun }) {
  const outbox = useOutbox();
  const session = useSession();
  const fitter = useMay("fitter");
  const engineer = useMay("engineer");
  const [reason, setReason] = useState("");
  const add = (kind: "resume" | "decision", content: { reason?: string }) => void outbox.add(joint.id, run.id, session!.person.id, kind, content, true);
  if (run.paused) {
    return (
      <Panel kind="mind" title="Paused">
        <p className={classes.big}>
          by {run.paused.by}, {dateTime(run.paused.at)}. {run.paused.note}
        </p>
        {run.paused.handOverTo && <p>For {run.paused.handOverTo}.</p>}
        {fitter && (
          <Button color="now" size="lg" fullWidth onClick={() => add("resume", {})} className={classes.main}>
            Take it up
          </Button>
        )}
      </Panel>
    );
  }
  if (run.stage !== "stopped") return null;
  return (
    <Panel kind="stop" title="Stopped">
      <p className={classes.big}>{run.rounds} rounds, and nuts still move.</p>
      <p>Look for a tilted disc, dirt on a seat, a yielding bolt or a wrong lubricant before another round.</p>
      {engineer ? (
        <form
          className={classes.form}
          onSubmit={(e) => {
            e.preventDefault();
            add("decision", { reason });
          }}
        >
          <Textarea label="Why another round may be made" value={reason} onChange={(e) => setReason(e.currentTarget.value)} autosize minRows={2} />
          <Button type="submit" color="now" disabled={reason.trim() === ""}>
            Allow one more round
          </Button>
        </form>
      ) : (
        <p>
          <b>An engineer decides.</b>
        </p>
      )}
    </Panel>
  );
}
