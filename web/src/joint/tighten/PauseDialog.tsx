import { TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import type { Joint, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import { Dialog } from "../../ui/Form";
import { tr } from "../../words/words";

/** Lays the work down. Whoever takes it up finds the next bolt on the screen. */
export function PauseDialog({ joint, run, onClose }: { joint: Joint; run: Run; onClose: () => void }) {
  const record = useRecord(joint.id, run.id);
  const [note, setNote] = useInputState("");
  const [to, setTo] = useInputState("");
  const pause = () => {
    record({ kind: "pause", ...(note ? { note } : {}), ...(to ? { handOverTo: to } : {}) });
    onClose();
  };
  return (
    <Dialog title={tr("Pause")} act={tr("Pause")} no={tr("Go on pulling")} onClose={onClose} onAct={pause}>
      <TextInput label={tr("Why, or what to know")} value={note} onChange={setNote} maxLength={500} data-autofocus />
      <TextInput label={tr("Who takes it up, if you know")} value={to} onChange={setTo} maxLength={80} />
    </Dialog>
  );
}
