import { Button, Modal, Switch } from "@mantine/core";
import { useState } from "react";
import type { Quantity } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import ui from "../../ui/ui.module.css";
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
  const [moved, setMoved] = useState(false);
  const v = readNumber(text);
  return (
    <Modal opened onClose={onClose} title={<b>{title}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          if (v !== undefined) onReading({ value: v, unit: setting.unit }, moved);
        }}
      >
        <Field
          label={`Reading; ${number(setting.value)} ${setting.unit} is set`}
          value={text}
          onChange={setText}
          unit={setting.unit}
          first
        />
        {checking && <Switch size="lg" label="The nut moved" checked={moved} onChange={(e) => setMoved(e.currentTarget.checked)} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="now" disabled={v === undefined}>
            Held at this
          </Button>
        </div>
      </form>
    </Modal>
  );
}
