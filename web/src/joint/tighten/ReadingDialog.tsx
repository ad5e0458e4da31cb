import { Switch } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Quantity } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import { Dialog } from "../../ui/Form";
import { Field } from "../layout/editors";
import { tr } from "../../words/words";

interface ReadingDialogProps {
  title: string;
  setting: Quantity;
  checking: boolean;
  onClose: () => void;
  onReading: (read: { reading?: Quantity; angle?: number; moved: boolean }) => void;
}

/** Takes a number read on the tool, in the tool's own unit. */
export function ReadingDialog({ title, setting, checking, onClose, onReading }: ReadingDialogProps) {
  const [text, setText] = useState("");
  const [moved, setMoved] = useInputState(false);
  const [turned, setTurned] = useState("");
  const v = readNumber(text);
  const angle = readNumber(turned);
  const wrong = (text.trim() !== "" && v === undefined) || (turned.trim() !== "" && angle === undefined);
  const ready = !wrong && (v !== undefined || angle !== undefined);
  const keep = () =>
    onReading({
      ...(v === undefined ? {} : { reading: { value: v, unit: setting.unit } }),
      ...(angle === undefined ? {} : { angle }),
      moved,
    });
  return (
    <Dialog title={title} act={tr("Held at this")} color="now" ready={ready} onClose={onClose} onAct={keep}>
      <Field
        label={tr("Reading; {setting} {unit} is set", { setting: number(setting.value), unit: setting.unit })}
        value={text}
        onChange={setText}
        unit={setting.unit}
        first
      />
      <Field
        label={checking ? tr("Turn of the nut, if the tool reads it") : tr("Turn from snug, if the tool reads it")}
        value={turned}
        onChange={setTurned}
        unit="°"
      />
      {checking && turned.trim() === "" && <Switch size="lg" label={tr("The nut moved")} checked={moved} onChange={setMoved} />}
    </Dialog>
  );
}
