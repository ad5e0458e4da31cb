import { Button, Modal, Textarea } from "@mantine/core";
import { useState } from "react";
import { useSession } from "../../api/queries";
import type { AnyRun, Joint } from "../../api/types";
import { useOutbox } from "../../app/context";
import ui from "../../ui/ui.module.css";
import { Choose } from "../layout/editors";

const troubles = ["would not turn", "turned too easily", "thread damaged", "overshot", "tool problem", "something else"].map((t) => ({ value: t, text: t }));
const remedies = [
  { value: "try again", text: "made good, try it again", note: "the same pull" },
  { value: "replaced", text: "replaced", note: "it begins with the first pass" },
  { value: "leave", text: "the others first", note: "this one at the end of the pass" },
];

/** What went wrong with a bolt, and what was done about it. */
export function TroubleDialog({ joint, run, bolt, step, onClose }: { joint: Joint; run: AnyRun; bolt: number; step?: string; onClose: () => void }) {
  const outbox = useOutbox();
  const session = useSession();
  const [trouble, setTrouble] = useState("");
  const [remedy, setRemedy] = useState("");
  const [note, setNote] = useState("");
  return (
    <Modal opened onClose={onClose} title={<b>Trouble at bolt {bolt}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          void outbox.add(joint.id, run.id, session!.person.id, "trouble", { bolt, trouble, remedy, ...(step ? { step } : {}), ...(note.trim() ? { note: note.trim() } : {}) }, Boolean(step));
          onClose();
        }}
      >
        <Choose options={troubles} value={trouble} onChoose={setTrouble} />
        {trouble && (
          <>
            <p className="soft">What was done about it</p>
            <Choose options={step ? remedies.filter((r) => r.value !== "leave") : remedies} value={remedy} onChoose={setRemedy} />
            <Textarea label="In a few words" value={note} onChange={(e) => setNote(e.currentTarget.value)} autosize minRows={1} maxLength={500} />
          </>
        )}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="stop" disabled={!trouble || !remedy}>
            Record it
          </Button>
        </div>
      </form>
    </Modal>
  );
}
