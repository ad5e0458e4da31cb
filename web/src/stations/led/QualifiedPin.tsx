import { Button, Modal, PasswordInput, TextInput } from "@mantine/core";
import { useState } from "react";
import { useSession } from "../../api/queries";
import type { JobStep } from "../../api/types";
import { Refusal } from "../../ui/Refusal";
import ui from "../../ui/ui.module.css";

interface QualifiedPinProps {
  step: JobStep;
  busy: boolean;
  error: unknown;
  onClose: () => void;
  onPin: (login: string, pin: string) => void;
}

/** Asks whoever is qualified for a step for their name and PIN, on the device of whoever works. */
export function QualifiedPin({ step, busy, error, onClose, onPin }: QualifiedPinProps) {
  const session = useSession();
  const [login, setLogin] = useState("");
  const [pin, setPin] = useState("");
  return (
    <Modal opened onClose={onClose} title={<b>For a {step.by}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          onPin(login.trim(), pin);
          setPin("");
        }}
      >
        <p>{step.text}</p>
        <TextInput label={`Name the ${step.by} signs in with (empty: ${session?.person.name})`} name="as" value={login} onChange={(e) => setLogin(e.currentTarget.value)} autoComplete="off" autoCapitalize="none" data-autofocus />
        <PasswordInput label="Their PIN" name="pin" value={pin} onChange={(e) => setPin(e.currentTarget.value)} autoComplete="off" inputMode="numeric" />
        {error ? <Refusal error={error} /> : null}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="held" loading={busy} disabled={pin.length < 1}>
            It is so
          </Button>
        </div>
      </form>
    </Modal>
  );
}
