import { Button, Modal, Textarea } from "@mantine/core";
import { type ReactNode, useState } from "react";
import { PinField, Unsent } from "./PinField";
import { Refusal } from "./Refusal";
import classes from "./ui.module.css";

interface PinProps {
  opened: boolean;
  title: string;
  act: string;
  /** Asks for a reason too: its label. */
  reason?: string;
  busy: boolean;
  error: unknown;
  /** It could not be sent; the PIN is asked for again. */
  unsent?: boolean;
  children?: ReactNode;
  onClose: () => void;
  onPin: (pin: string, reason: string) => void;
}

/** Asks for the PIN again before something is signed. */
export function Pin({ opened, title, act, reason, busy, error, unsent, children, onClose, onPin }: PinProps) {
  const [pin, setPin] = useState("");
  const [why, setWhy] = useState("");
  return (
    <Modal
      opened={opened}
      title={<b>{title}</b>}
      onClose={() => {
        setPin("");
        onClose();
      }}
    >
      <form
        className={classes.stack}
        onSubmit={(e) => {
          e.preventDefault();
          onPin(pin, why);
          setPin("");
        }}
      >
        {children}
        {reason && (
          <Textarea
            label={reason}
            value={why}
            onChange={(e) => setWhy(e.currentTarget.value)}
            autosize
            minRows={2}
            maxLength={500}
            name="reason"
          />
        )}
        <PinField label="Your PIN" value={pin} onChange={setPin} first />
        {error ? <Refusal error={error} /> : null}
        {unsent && <Unsent />}
        <div className={classes.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="held" loading={busy} disabled={pin.length < 1}>
            {act}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
