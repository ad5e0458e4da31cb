import { PasswordInput, Textarea, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { type ReactNode, useState } from "react";
import { useSession } from "../api/queries";
import { Dialog } from "./Form";
import { Refusal, type RefusalProps } from "./Refusal";
import { tr } from "../words/words";

export interface Signs {
  pin: string;
  /** The name of whose PIN it is signs in with; empty: whoever is signed in. */
  as: string;
}

interface PinFieldsProps {
  /** Who has to sign, like "charging technician"; left out where it is whoever is signed in. */
  by?: string;
  value: Signs;
  onChange: (v: Signs) => void;
}

/** Where somebody who is at the screen already signs, or whoever is qualified, on the device of whoever works. */
export function PinFields({ by, value, onChange }: PinFieldsProps) {
  const me = useSession();
  return (
    <>
      {by && (
        <TextInput
          label={tr("Name the {by} signs in with (empty: {person})", { by, person: me?.person.name })}
          name="as"
          value={value.as}
          onChange={(e) => onChange({ ...value, as: e.currentTarget.value })}
          autoComplete="off"
          autoCapitalize="none"
          data-autofocus
        />
      )}
      <PasswordInput
        label={by ? tr("Their PIN") : tr("Your PIN")}
        name="pin"
        value={value.pin}
        onChange={(e) => onChange({ ...value, pin: e.currentTarget.value })}
        autoComplete="off"
        inputMode="numeric"
        data-autofocus={by ? undefined : true}
      />
    </>
  );
}

/** Says that what was signed for is kept, and its PIN is not. */
export function Unsent() {
  return <p role="alert">{tr("It could not be sent. It is kept here; the PIN is not, so enter it again.")}</p>;
}

interface PinProps extends RefusalProps, Pick<PinFieldsProps, "by"> {
  title: string;
  act: string;
  /** Asks for a reason too: its label. */
  reason?: string;
  busy?: boolean;
  /** It could not be sent; the PIN is asked for again. */
  unsent?: boolean;
  children?: ReactNode;
  onClose: () => void;
  onPin: (pin: string, more: { as?: string; reason: string }) => void;
}

/** Asks for a PIN before something is signed. */
export function Pin({ title, act, by, reason, busy, unsent, problem, error, children, onClose, onPin }: PinProps) {
  const [signs, setSigns] = useState<Signs>({ pin: "", as: "" });
  const [why, setWhy] = useInputState("");
  return (
    <Dialog
      title={title}
      act={act}
      color="held"
      ready={signs.pin !== ""}
      busy={busy}
      onClose={onClose}
      onAct={() => {
        onPin(signs.pin, { as: signs.as.trim() || undefined, reason: why.trim() });
        setSigns({ ...signs, pin: "" });
      }}
    >
      {children}
      {reason && <Textarea label={reason} value={why} onChange={setWhy} minRows={2} name="reason" />}
      <PinFields by={by} value={signs} onChange={setSigns} />
      <Refusal problem={problem} error={error} />
      {unsent && <Unsent />}
    </Dialog>
  );
}
