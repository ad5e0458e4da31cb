import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { useSession } from "../../api/queries";
import type { Problem } from "../../api/types";
import { PinField, Unsent } from "../../ui/PinField";
import { Refusal } from "../../ui/Refusal";
import ui from "../../ui/ui.module.css";

interface QualifiedPinProps {
  /** Who has to do it, like "charging technician"; left out where it is whoever is signed in. */
  by?: string;
  text: string;
  act: string;
  busy: boolean;
  problem?: Problem;
  /** It could not be sent; the PIN is asked for again. */
  unsent: boolean;
  onClose: () => void;
  onPin: (pin: string, login?: string) => void;
}

/** Asks whoever is qualified for an act for their name and PIN, on the device of whoever works. */
export function QualifiedPin({ by, text, act, busy, problem, unsent, onClose, onPin }: QualifiedPinProps) {
  const session = useSession();
  const [login, setLogin] = useState("");
  const [pin, setPin] = useState("");
  return (
    <Modal opened onClose={onClose} title={<b>{by ? `For a ${by}` : "Your PIN again"}</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          onPin(pin, login.trim() || undefined);
          setPin("");
        }}
      >
        <p>{text}</p>
        {by && (
          <TextInput
            label={`Name the ${by} signs in with (empty: ${session?.person.name})`}
            name="as"
            value={login}
            onChange={(e) => setLogin(e.currentTarget.value)}
            autoComplete="off"
            autoCapitalize="none"
            data-autofocus
          />
        )}
        <PinField label={by ? "Their PIN" : "Your PIN"} value={pin} onChange={setPin} />
        {problem && <Refusal problem={problem} />}
        {unsent && <Unsent />}
        <div className={ui.between}>
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
