import { tag } from "../../words/locale";
import { Text } from "@mantine/core";
import type { Step, Verdict } from "../../api/types";
import { Why } from "../../ui/Why";
import { Limits } from "./Limit";
import { ReadingField } from "./ReadingField";
import classes from "./steps.module.css";
import { told, tr } from "../../words/words";

interface ReadingsProps {
  step: Step;
  typed: string[];
  onTyped: (v: string[]) => void;
  /** Those with a place on the drawing are typed there. */
  placed: boolean;
}

/** What is read at a step: each thing with its limit, why, and a field for each raw reading. */
export function Readings({ step, typed, onTyped, placed }: ReadingsProps) {
  return step.reads.map((r) => {
    const fields = r.fields.map((f, i) => ({ ...f, at: r.from + i })).filter(({ at }) => !(placed && onDrawing(step, at)));
    const name = r.name && (step.reads.length > 1 || r.form) ? r.name : "";
    const one = r.fields.length === 1;
    return (
      <div key={r.from} className={classes.read}>
        {(name || r.limit.length > 0) && (
          <p>
            {name && <b>{[told(name), told(r.of)].filter(Boolean).join(", ")}</b>}
            {r.limit.length > 0 && (
              <Text span c="plan" fw={700}>
                {name ? ": " : tr("It must be ")}
                <Limits step={step} pieces={r.limit} />
                {name ? "" : "."}
                {r.target && `; ${told(r.target)}`}
              </Text>
            )}
            {r.source && !["fixed", ""].includes(r.source) && <span className="fine"> {source(r.source)}</span>}
            {r.why && (
              <>
                {" "}
                <Why text={r.why} />
              </>
            )}
          </p>
        )}
        {fields.length > 0 && (
          <div className={classes.readings}>
            {fields.map((f) => (
              <ReadingField
                key={f.at}
                label={one && name ? tr("reading") : told(f.name) || tr("reading")}
                unit={f.unit}
                name={`reading${f.at + 1}`}
                value={typed[f.at] ?? ""}
                onChange={(v) => onTyped(typed.with(f.at, v))}
              />
            ))}
          </div>
        )}
        {fields.length < r.fields.length && (
          <p className="soft">{tr("Type the readings on the drawing, in {unit}.", { unit: r.fields[0]?.unit })}</p>
        )}
      </div>
    );
  });
}

const source = (s: string) => (["rule", "sheet"].includes(s) ? `(${told(s)})` : tr("(from the {s})", { s: told(s) }));

/** Whether a raw reading has a place on the drawing. */
export const onDrawing = (step: Step, at: number) => {
  const spot = step.spots[at];
  return spot !== undefined && (spot.x !== 0 || spot.y !== 0);
};

/** What readings come to, large: each answer with its unit, what is outside told by word and bar. */
export function Answers({ verdict }: { verdict: Verdict }) {
  if (verdict.answers.length === 0) return null;
  return (
    <dl className={classes.answers} role="status">
      {verdict.answers.map((a) => (
        <div key={a.read + a.name} data-outside={(a.judged && a.outside) || undefined}>
          <dt>{[told(a.read), told(a.name)].filter(Boolean).join(", ")}</dt>
          <dd className="mono">{told(a.says) || `${figures.format(a.value)} ${a.unit}`}</dd>
        </div>
      ))}
    </dl>
  );
}

const figures = new Intl.NumberFormat(tag, { maximumSignificantDigits: 4 });
