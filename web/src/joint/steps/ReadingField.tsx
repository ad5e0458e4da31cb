import classes from "./steps.module.css";

interface ReadingFieldProps {
  label: string;
  /** Left out where the reading is typed on the drawing. */
  unit?: string;
  name: string;
  value: string;
  onChange: (v: string) => void;
}

/** A reading as it is typed: with its unit, or small on the drawing at its place. */
export function ReadingField({ label, unit, name, value, onChange }: ReadingFieldProps) {
  return (
    <label className={classes.reading}>
      <span>{label}</span>
      <span>
        <input
          className="mono"
          inputMode="decimal"
          autoComplete="off"
          name={name}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
        {unit && <span className="mono">{unit}</span>}
      </span>
    </label>
  );
}
