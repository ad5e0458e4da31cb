import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Joint, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import ui from "../../ui/ui.module.css";

/** Lays the work down. Whoever takes it up finds the next bolt on the screen. */
export function PauseDialog({ joint, run, onClose }: { joint: Joint; run: Run; onClose: () => void }) {
  const record = useRecord(joint.id, run.id);
  const [note, setNote] = useState("");
  const [to, setTo] = useState("");
  return (
    <Modal opened onClose={onClose} title={<b>Pause</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          record({ kind: "pause", ...(note ? { note } : {}), ...(to ? { handOverTo: to } : {}) });
          onClose();
        }}
      >
        <TextInput
          label="Why, or what to know"
          value={note}
          onChange={(e) => setNote(e.currentTarget.value)}
          maxLength={500}
          data-autofocus
        />
        <TextInput label="Who takes it up, if you know" value={to} onChange={(e) => setTo(e.currentTarget.value)} maxLength={80} />
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Go on pulling
          </Button>
          <Button type="submit" color="plan">
            Pause
          </Button>
        </div>
      </form>
    </Modal>
  );
}
