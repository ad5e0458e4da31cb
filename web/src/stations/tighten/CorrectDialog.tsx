import { Button, Modal, Switch, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { sendEntry } from "../../api/client";
import { keepRun } from "../../api/queries";
import type { AnyRun, EntryContent, Joint, TapeLine } from "../../api/types";
import { readNumber } from "../../ui/format";
import { Refusal } from "../../ui/Refusal";
import ui from "../../ui/ui.module.css";
import { Field } from "../layout/editors";

/** Puts an entry right: a new entry that stands for it, with a reason. Nothing is overwritten. */
export function CorrectDialog({ joint, run, line, onClose }: { joint: Joint; run: AnyRun; line: TapeLine; onClose: () => void }) {
  const queries = useQueryClient();
  const unit = line.value?.unit ?? "N·m";
  const [reading, setReading] = useState(line.reading ? String(line.reading.value) : "");
  const [moved, setMoved] = useState(line.entry?.moved ?? false);
  const [reason, setReason] = useState("");
  const check = line.kind === "check" || (line.entry?.round ?? 0) > 0;
  const plain = line.kind === "pull" || check || (line.kind === "step" && line.value !== undefined);
  const v = readNumber(reading);
  const correct = useMutation({
    mutationFn: (strike: boolean) => {
      const { entry: was = {} } = line;
      const instead: EntryContent = { ...was, ...(check ? { moved } : {}), confirmed: true };
      delete instead.reading;
      if (v !== undefined) instead.reading = { value: v, unit };
      return sendEntry(run.id, "steps" in run, { id: crypto.randomUUID(), kind: "correction", at: new Date().toISOString(), of: line.id, content: { reason }, ...(strike ? { strike } : { instead }) });
    },
    onSuccess: (r) => {
      keepRun(queries, joint.id, r);
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title={<b>Put right: {line.what}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          if (plain) correct.mutate(false);
        }}
      >
        <p className="soft">The entry stays on the record; this one stands for it.</p>
        {plain && <Field label="Reading (empty: it clicked at its setting)" value={reading} onChange={setReading} unit={unit} />}
        {check && <Switch size="lg" label={(line.entry?.turn ?? 0) > 0 ? "It turned and did not click" : "The nut moved"} checked={moved} onChange={(e) => setMoved(e.currentTarget.checked)} />}
        <TextInput label="What was wrong" name="reason" value={reason} onChange={(e) => setReason(e.currentTarget.value)} maxLength={500} data-autofocus />
        {correct.isError && <Refusal error={correct.error} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Leave it
          </Button>
          <Button color="stop" variant="outline" loading={correct.isPending} disabled={reason.trim() === ""} onClick={() => correct.mutate(true)}>
            It did not happen
          </Button>
          {plain && (
            <Button type="submit" color="plan" loading={correct.isPending} disabled={reason.trim() === "" || (reading.trim() !== "" && v === undefined)}>
              Put it right
            </Button>
          )}
        </div>
      </form>
    </Modal>
  );
}
