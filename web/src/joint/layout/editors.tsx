import { Button, SegmentedControl, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Quantity } from "../../api/types";
import { Form } from "../../ui/Form";
import { readNumber } from "../../ui/format";
import classes from "./layout.module.css";
import { tr } from "../../words/words";

export interface Option {
  value: string;
  text: string;
  note?: string;
}

/** A list to choose from, with a field to narrow it when it is long. */
export function Choose({ options, value, onChoose }: { options: Option[]; value: string; onChoose: (v: string) => void }) {
  const [filter, setFilter] = useInputState("");
  const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = options.filter((o) => words.every((w) => `${o.text} ${o.value}`.toLowerCase().includes(w)));
  return (
    <div>
      {options.length > 12 && (
        <TextInput
          aria-label={tr("Narrow the list")}
          placeholder={tr("type to narrow")}
          value={filter}
          onChange={setFilter}
          onKeyDown={(e) => e.key === "Enter" && shown[0] && onChoose(shown[0].value)}
          data-autofocus
        />
      )}
      <ul className={`options lines ${classes.options}`}>
        {shown.map((o) => (
          <li key={o.value}>
            <button type="button" className="bare" onClick={() => onChoose(o.value)} aria-pressed={o.value === value} data-value={o.value}>
              <span>{o.text}</span>
              {o.note && <span className="soft">{o.note}</span>}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

interface FieldProps {
  label: string;
  value: string;
  onChange: (v: string) => void;
  first?: boolean;
  unit?: string;
  name?: string;
}

/** A field for one number, with its unit at its end. */
export function Field({ label, value, onChange, first, unit, name }: FieldProps) {
  return (
    <TextInput
      label={label}
      name={name}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
      inputMode="decimal"
      autoComplete="off"
      rightSection={unit ? <span className="mono soft">{unit}</span> : undefined}
      rightSectionWidth={unit ? 74 : undefined}
      error={value.trim() !== "" && readNumber(value) === undefined ? tr("Enter a number, like 240 or 9.5.") : undefined}
      {...(first ? { "data-autofocus": true } : {})}
    />
  );
}

/** The unit a number is entered in. */
export function Units({ units, value, onChange }: { units: string[]; value: string; onChange: (u: string) => void }) {
  return <SegmentedControl data={units} value={value} onChange={onChange} fullWidth size="md" />;
}

export function Set({ disabled }: { disabled?: boolean }) {
  return (
    <Button type="submit" color="plan" disabled={disabled} fullWidth>
      {tr("Set")}
    </Button>
  );
}

interface WholeProps {
  label: string;
  value: number;
  onSet: (n: number) => void;
  first?: boolean;
}

/** One whole number. */
export function Whole({ label, value, onSet, first }: WholeProps) {
  const [text, setText] = useState(value ? String(value) : "");
  const v = readNumber(text);
  return (
    <Form onSend={() => v !== undefined && onSet(Math.trunc(v))}>
      <Field label={label} value={text} onChange={setText} first={first} />
      <Set disabled={v === undefined} />
    </Form>
  );
}

/** One number with its unit. */
export function Amount({ label, value, units, onSet }: { label: string; value: Quantity; units: string[]; onSet: (q: Quantity) => void }) {
  const [text, setText] = useState(String(value.value));
  const [unit, setUnit] = useState(value.unit);
  const v = readNumber(text);
  return (
    <Form onSend={() => v !== undefined && onSet({ value: v, unit })}>
      <Field label={label} value={text} onChange={setText} unit={unit} first />
      {units.length > 1 && <Units units={units} value={unit} onChange={setUnit} />}
      <Set disabled={v === undefined} />
    </Form>
  );
}

export const torqueUnits = ["N·m", "cN·m", "ft·lbf", "in·lbf", "kgf·m"];
export const lengthUnits = ["mm", "in"];
