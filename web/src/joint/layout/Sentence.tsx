import { Button, Stack, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useSession, useWords } from "../../api/queries";
import type { Given, Value } from "../../api/types";
import { Form } from "../../ui/Form";
import { number, readNumber } from "../../ui/format";
import { Choose, Field, lengthUnits, Set, torqueUnits, Units } from "./editors";
import { Listed } from "./Listed";
import { Word } from "./Word";
import { Num, type Which } from "../numbers/Numbers";
import classes from "./layout.module.css";
import type { DraftState } from "./useDraft";

export interface SentenceProps {
  draft: DraftState;
  mayChange: boolean;
}

/** What the joint is: its recipe, its nameplate, its variant. */
export function Sentence({ draft: state, mayChange }: SentenceProps) {
  const { input, draft, problem, change } = state;
  const shared = { problem, mayChange };
  const types = draft.recipe.types;
  const sizes = types.find((t) => t.type === input.type)?.sizes ?? [];
  return (
    <p className={classes.sentence}>
      {draft.recipe.title}, nameplate{" "}
      <Word {...shared} name="Type on the nameplate" fields={["type"]} text={input.type || "type"}>
        {(close) => (
          <Typed
            label="Type, as on the nameplate"
            options={types.map((t) => t.type)}
            value={input.type}
            onSet={(type) => {
              close();
              const has = types.find((t) => t.type === type)?.sizes;
              change({ type, ...(has && !has.includes(input.size) ? { size: "" } : {}) });
            }}
          />
        )}
      </Word>{" "}
      <Word {...shared} name="Size on the nameplate" fields={["size"]} text={input.size || "size"}>
        {(close) => (
          <Typed
            label="Size, as on the nameplate"
            options={sizes}
            value={input.size}
            onSet={(size) => {
              close();
              change({ size });
            }}
          />
        )}
      </Word>
      {draft.recipe.choices.map((c) => (
        <span key={c.name}>
          {"; "}
          {c.name}:{" "}
          <Listed
            {...shared}
            name={c.text}
            fields={[`choices.${c.name}`]}
            text={input.choices[c.name] || "choose"}
            asks={`${c.text}?`}
            about={c.differ}
            options={c.options.map((o) => ({ value: o, text: o }))}
            value={input.choices[c.name] ?? ""}
            onChoose={(o) => change({ choices: { ...input.choices, [c.name]: o } })}
          />
        </span>
      ))}
      .
    </p>
  );
}

/** A value off the nameplate: one of the sheet's, or typed. */
function Typed({ label, options, value, onSet }: { label: string; options: string[]; value: string; onSet: (v: string) => void }) {
  const [text, setText] = useInputState(options.includes(value) ? "" : value);
  return (
    <Stack gap={12}>
      {options.length > 0 && (
        <Choose options={options.map((o) => ({ value: o, text: o, note: "on the sheet" }))} value={value} onChoose={onSet} />
      )}
      <Form onSend={() => text.trim() && onSet(text.trim())}>
        <TextInput label={label} value={text} onChange={setText} maxLength={40} autoComplete="off" />
        <Set disabled={!text.trim()} />
      </Form>
    </Stack>
  );
}

/** A value as a word: the sheet's, or one by hand. */
export function ValueWord({
  draft,
  value: v,
  mayChange,
  extra = [],
  why,
}: SentenceProps & { value: Value; extra?: string[]; why?: Which }) {
  const { input, change, problem } = draft;
  const typed = problem && input.values[v.name]; // what was refused stays to be seen
  const shown = typed ? givenWords(typed, v.word) : v.shown;
  if (v.worked)
    return (
      <span data-worked={v.name}>
        {v.shown && (
          <Num of={v.of!} number={v.number!}>
            <b>{v.shown}</b>
          </Num>
        )}{" "}
        <span className="soft">{v.worked}</span>
      </span>
    );
  return (
    <Word
      problem={draft.problem}
      mayChange={mayChange}
      name={v.text}
      fields={[`values.${v.name}`, ...extra]}
      text={shown || v.usual || (v.optional ? "not given" : "missing")}
      usual={!shown}
      why={why}
    >
      {(close) => (
        <ValueEditor
          value={v}
          onSet={(given) => {
            close();
            const { [v.name]: _, ...rest } = input.values;
            change({ values: given ? { ...rest, [v.name]: given } : rest });
          }}
        />
      )}
    </Word>
  );
}

function givenWords({ value, max }: Given, word: string) {
  return `${number(value.value)}${max ? ` to ${number(max.value)}` : ""} ${value.unit || word}`.trim();
}

const families = [torqueUnits, lengthUnits, ["bar", "MPa", "psi"]];

function ValueEditor({ value: v, onSet }: { value: Value; onSet: (g?: Given) => void }) {
  const [low, setLow] = useState(v.given ? String(v.given.value.value) : "");
  const [high, setHigh] = useState(v.given?.max ? String(v.given.max.value) : "");
  const site = useSession()?.site;
  const [unit, setUnit] = useState(v.given?.value.unit ?? (v.unit === "N·m" ? (site?.torqueUnit ?? v.unit) : v.unit));
  const units = families.find((f) => f.includes(v.unit)) ?? [v.unit];
  const l = readNumber(low);
  const h = high.trim() === "" ? undefined : readNumber(high);
  const shown = unit || v.word;
  const trials = (useWords().data?.lubricants ?? []).filter((l) => l.trial);
  return (
    <Form onSend={() => l !== undefined && onSet({ value: { value: l, unit }, ...(h === undefined ? {} : { max: { value: h, unit } }) })}>
      <p className="soft">
        {v.text}
        {v.usual && `. Usual: ${v.usual}, a starting value of ours; the maker’s own replaces it.`}
      </p>
      <Field label="Value, or from" value={low} onChange={setLow} unit={shown} first />
      <Field label="To, where it is a range" value={high} onChange={setHigh} unit={shown} />
      {units.length > 1 && <Units units={units} value={unit} onChange={setUnit} />}
      <Set disabled={l === undefined || (high.trim() !== "" && h === undefined)} />
      {v.lotK && trials.length > 0 && (
        <Choose
          options={trials.map((l) => ({ value: l.name, text: l.name, note: `K ${number(l.low)} to ${number(l.high)}, by its trial` }))}
          value=""
          onChoose={(name) => {
            const l = trials.find((x) => x.name === name);
            if (l) onSet({ value: { value: l.low, unit: "" }, max: { value: l.high, unit: "" } });
          }}
        />
      )}
      {!v.sheet && v.hand && v.optional && (
        <Button variant="default" onClick={() => onSet(undefined)}>
          Not given
        </Button>
      )}
      {v.sheet && v.hand && (
        <Button variant="default" onClick={() => onSet(undefined)}>
          Back to the sheet: {givenWords(v.sheet, v.word)}
        </Button>
      )}
    </Form>
  );
}
