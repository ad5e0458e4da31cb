import { PasswordInput } from "@mantine/core";

interface PinFieldProps {
  label: string;
  value: string;
  onChange: (pin: string) => void;
  /** The first thing to fill in where it stands. */
  first?: boolean;
}

/** Where somebody who is at the screen already enters a PIN. */
export function PinField({ label, value, onChange, first }: PinFieldProps) {
  return (
    <PasswordInput
      label={label}
      name="pin"
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
      autoComplete="off"
      inputMode="numeric"
      data-autofocus={first || undefined}
    />
  );
}

/** Says that what was signed for is kept, and its PIN is not. */
export function Unsent() {
  return <p role="alert">It could not be sent. It is kept here; the PIN is not, so enter it again.</p>;
}
