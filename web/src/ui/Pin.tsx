import { Button, Modal, PasswordInput, Textarea } from "@mantine/core";
import { type ReactNode, useState } from "react";
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
        <PasswordInput
          label="Your PIN"
          name="pin"
          value={pin}
          onChange={(e) => setPin(e.currentTarget.value)}
          autoComplete="off"
          inputMode="numeric"
          data-autofocus
        />
        {error ? <Refusal error={error} /> : null}
        {unsent && <p role="alert">It could not be sent. It is kept here; the PIN is not, so enter it again.</p>}
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
