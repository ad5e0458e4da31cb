import { Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Step } from "../../api/types";
import { Dialog } from "../../ui/Form";

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
        {what ? "Leave this one" : "Leave it"}
      </button>
      {open && (
        <Dialog
          title={what ?? step.text}
          act="Leave it undone"
          ready={reason.trim() !== ""}
          onClose={() => setOpen(false)}
          onAct={() => {
            onLeave(reason.trim());
            setReason("");
            setOpen(false);
          }}
        >
          <Textarea name="reason" label="Why it is left undone. It stands first on the record." value={reason} onChange={setReason} />
        </Dialog>
      )}
    </>
  );
}
