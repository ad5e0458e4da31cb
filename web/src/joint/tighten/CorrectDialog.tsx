import { Button, Modal, Switch, TextInput } from "@mantine/core";
import { useState } from "react";
import type { DoneContent, EntryContent, Joint, Run, TapeLine } from "../../api/types";
import { useRecord, useWatched } from "../../app/context";
import { readNumber } from "../../ui/format";
import { PinField, Unsent } from "../../ui/PinField";
import { Refusal } from "../../ui/Refusal";
import ui from "../../ui/ui.module.css";
import { Field } from "../layout/editors";

/** Puts an entry right: a new entry that stands for it, with a reason. Nothing is overwritten. */
export function CorrectDialog({ joint, run, line, onClose }: { joint: Joint; run: Run; line: TapeLine; onClose: () => void }) {
  const record = useRecord(joint.id, run.id);
  const watched = useWatched(joint.id, run.id, onClose);
  const unit = line.value?.unit ?? "N·m";
  const was = line.done;
  const [reading, setReading] = useState(line.reading ? String(line.reading.value) : "");
  const [moved, setMoved] = useState(was?.moved ?? false);
  const [reason, setReason] = useState("");
  const [login, setLogin] = useState("");
  const [pin, setPin] = useState("");
  const round = (was?.round ?? 0) > 0;
  const plain = was !== undefined && (round || line.value !== undefined);
  const v = readNumber(reading);
  const ready = reason.trim() !== "" && (!line.asks || pin !== "");

  function correct(instead?: DoneContent) {
    const content: EntryContent = { kind: "correction", of: line.id, reason: reason.trim(), ...(instead ? { instead } : {}) };
    if (line.asks) return watched.send(content, { pin, as: login.trim() || undefined });
    record(content);
    onClose();
  }

  function putRight() {
    if (!was) return;
    const { reading: _, ...rest } = was;
    correct({ ...rest, ...(round ? { moved } : {}), ...(v === undefined ? {} : { reading: { value: v, unit } }) });
  }

  return (
    <Modal opened onClose={onClose} title={<b>Put right: {line.what}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          if (plain && ready) putRight();
        }}
      >
        <p className="soft">
          The entry stays on the record; this one stands for it. What was proven or signed after it does not count any more.
        </p>
        {plain && line.value && (
          <Field label="Reading (empty: it clicked at its setting)" value={reading} onChange={setReading} unit={unit} />
        )}
        {round && (
          <Switch
            size="lg"
            label={(was?.turn ?? 0) > 0 ? "It turned and did not click" : "The nut moved"}
            checked={moved}
            onChange={(e) => setMoved(e.currentTarget.checked)}
          />
        )}
        <TextInput
          label="What was wrong"
          name="reason"
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          maxLength={500}
          data-autofocus
        />
        {line.asks && (
          <>
            <TextInput
              label={`Name the ${line.asks} signs in with (empty: you)`}
              name="as"
              value={login}
              onChange={(e) => setLogin(e.currentTarget.value)}
              autoComplete="off"
            />
            <PinField label="Their PIN" value={pin} onChange={setPin} />
          </>
        )}
        {watched.problem && <Refusal problem={watched.problem} />}
        {watched.unsent && <Unsent />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Leave it
          </Button>
          <Button color="stop" variant="outline" loading={watched.busy} disabled={!ready} onClick={() => correct()}>
            It did not happen
          </Button>
          {plain && (
            <Button type="submit" color="plan" loading={watched.busy} disabled={!ready || (reading.trim() !== "" && v === undefined)}>
              Put it right
            </Button>
          )}
        </div>
      </form>
    </Modal>
  );
}
