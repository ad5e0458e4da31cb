import { Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Step } from "../../api/types";
import { Dialog } from "../../ui/Form";
import { told, tr } from "../../words/words";

interface LeaveProps {
  step: Step;
  /** The line of a list that is left; without one it is the step. */
  what?: string;
  onLeave: (reason: string) => void;
}

/** Leaves something undone, with its reason. */
export function Leave({ step, what, onLeave }: LeaveProps) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useInputState("");
  return (
    <>
      <button type="button" className="link" onClick={() => setOpen(true)} data-act="leave">
        {what ? tr("Leave this one") : tr("Leave it")}
      </button>
      {open && (
        <Dialog
          title={what ?? told(step.text)}
          act={tr("Leave it undone")}
          ready={reason.trim() !== ""}
          onClose={() => setOpen(false)}
          onAct={() => {
            onLeave(reason.trim());
            setReason("");
            setOpen(false);
          }}
        >
          <Textarea name="reason" label={tr("Why it is left undone. It stands first on the record.")} value={reason} onChange={setReason} />
        </Dialog>
      )}
    </>
  );
}
