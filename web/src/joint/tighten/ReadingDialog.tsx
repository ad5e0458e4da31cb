import { Switch } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Quantity } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import { Dialog } from "../../ui/Form";
import { Field } from "../layout/editors";

interface ReadingDialogProps {
  title: string;
  setting: Quantity;
  checking: boolean;
  onClose: () => void;
  onReading: (q: Quantity, moved: boolean) => void;
}

/** Takes a number read on the tool, in the tool's own unit. */
export function ReadingDialog({ title, setting, checking, onClose, onReading }: ReadingDialogProps) {
  const [text, setText] = useState("");
  const [moved, setMoved] = useInputState(false);
  const v = readNumber(text);
  const keep = () => v !== undefined && onReading({ value: v, unit: setting.unit }, moved);
  return (
    <Dialog title={title} act="Held at this" color="now" ready={v !== undefined} onClose={onClose} onAct={keep}>
      <Field label={`Reading; ${number(setting.value)} ${setting.unit} is set`} value={text} onChange={setText} unit={setting.unit} first />
      {checking && <Switch size="lg" label="The nut moved" checked={moved} onChange={setMoved} />}
    </Dialog>
  );
}
