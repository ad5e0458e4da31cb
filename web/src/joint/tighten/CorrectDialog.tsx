import { Button, Switch, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { DoneContent, EntryContent, Joint, Run, TapeLine } from "../../api/types";
import { useRecord, useWatched } from "../../app/context";
import { readNumber } from "../../ui/format";
import { Dialog } from "../../ui/Form";
import { PinFields, type Signs, Unsent } from "../../ui/Pin";
import { Refusal } from "../../ui/Refusal";
import { Field } from "../layout/editors";
import { told, tr } from "../../words/words";

/** Puts an entry right: a new entry that stands for it, with a reason. Nothing is overwritten. */
export function CorrectDialog({ joint, run, line, onClose }: { joint: Joint; run: Run; line: TapeLine; onClose: () => void }) {
  const record = useRecord(joint.id, run.id);
  const watched = useWatched(joint.id, run.id, onClose);
  const unit = line.value?.unit ?? "N·m";
  const was = line.done;
  const [reading, setReading] = useState(line.reading ? String(line.reading.value) : "");
  const [moved, setMoved] = useInputState(was?.moved ?? false);
  const [reason, setReason] = useInputState("");
  const [signs, setSigns] = useState<Signs>({ pin: "", as: "" });
  const round = (was?.round ?? 0) > 0;
  const plain = was !== undefined && (round || line.value !== undefined);
  const v = readNumber(reading);
  const ready = reason.trim() !== "" && (!line.asks || signs.pin !== "");

  function correct(instead?: DoneContent) {
    const content: EntryContent = { kind: "correction", of: line.id, reason: reason.trim(), ...(instead ? { instead } : {}) };
    if (line.asks) return watched.send(content, { pin: signs.pin, as: signs.as.trim() || undefined });
    record(content);
    onClose();
  }

  function putRight() {
    if (!was || !plain) return correct();
    const { reading: _, ...rest } = was;
    correct({ ...rest, ...(round ? { moved } : {}), ...(v === undefined ? {} : { reading: { value: v, unit } }) });
  }

  const strike = (
    <Button color="stop" variant="outline" loading={watched.busy} disabled={!ready} onClick={() => correct()}>
      {tr("It did not happen")}
    </Button>
  );
  return (
    <Dialog
      title={tr("Put right: {what}", { what: told(line.what) })}
      act={plain ? tr("Put it right") : tr("It did not happen")}
      color={plain ? "plan" : "stop"}
      no={tr("Leave it")}
      ready={ready && (reading.trim() === "" || v !== undefined)}
      busy={watched.busy}
      also={plain && strike}
      onClose={onClose}
      onAct={putRight}
    >
      <p className="soft">
        {tr("The entry stays on the record; this one stands for it. What was proven or signed after it does not count any more.")}
      </p>
      {plain && line.value && (
        <Field label={tr("Reading (empty: it clicked at its setting)")} value={reading} onChange={setReading} unit={unit} />
      )}
      {round && (
        <Switch
          size="lg"
          label={(was?.turn ?? 0) > 0 ? tr("It turned and did not click") : tr("The nut moved")}
          checked={moved}
          onChange={setMoved}
        />
      )}
      <TextInput label={tr("What was wrong")} name="reason" value={reason} onChange={setReason} maxLength={500} data-autofocus />
      {line.asks && <PinFields by={line.asks} value={signs} onChange={setSigns} />}
      <Refusal problem={watched.problem} />
      {watched.unsent && <Unsent />}
    </Dialog>
  );
}
