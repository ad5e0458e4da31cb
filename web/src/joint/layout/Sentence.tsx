import { Button, Stack, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useTorqueUnit, useWords } from "../../api/queries";
import type { Given, Value } from "../../api/types";
import { Form } from "../../ui/Form";
import { number, readNumber } from "../../ui/format";
import { Choose, Field, lengthUnits, Set, torqueUnits, Units } from "./editors";
import { Listed } from "./Listed";
import { Word } from "./Word";
import { Num, type Which } from "../numbers/Numbers";
import classes from "./layout.module.css";
import type { DraftState } from "./useDraft";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

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
      <Say
        of="{title}, nameplate {type} {size}{choices}."
        with={{
          title: told(draft.recipe.title),
          type: (
            <Word {...shared} name={tr("Type on the nameplate")} fields={["type"]} text={input.type || tr("type")}>
              {(close) => (
                <Typed
                  label={tr("Type, as on the nameplate")}
                  options={types.map((t) => t.type)}
                  value={input.type}
                  onSet={(type) => {
                    close();
                    const has = types.find((t) => t.type === type)?.sizes;
                    change({ type, ...(has && !has.includes(input.size) ? { size: "" } : {}) });
                  }}
                />
              )}
            </Word>
          ),
          size: (
            <Word {...shared} name={tr("Size on the nameplate")} fields={["size"]} text={input.size || tr("size")}>
              {(close) => (
                <Typed
                  label={tr("Size, as on the nameplate")}
                  options={sizes}
                  value={input.size}
                  onSet={(size) => {
                    close();
                    change({ size });
                  }}
                />
              )}
            </Word>
          ),
          choices: draft.recipe.choices.map((c) => (
            <span key={c.name}>
              {"; "}
              {told(c.name)}:{" "}
              <Listed
                {...shared}
                name={told(c.text)}
                fields={[`choices.${c.name}`]}
                text={told(input.choices[c.name]) || tr("choose")}
                asks={`${told(c.text)}?`}
                about={c.differ}
                options={c.options.map((o) => ({ value: o, text: told(o) }))}
                value={input.choices[c.name] ?? ""}
                onChoose={(o) => change({ choices: { ...input.choices, [c.name]: o } })}
              />
            </span>
          )),
        }}
      />
    </p>
  );
}

/** A value off the nameplate: one of the sheet's, or typed. */
function Typed({ label, options, value, onSet }: { label: string; options: string[]; value: string; onSet: (v: string) => void }) {
  const [text, setText] = useInputState(options.includes(value) ? "" : value);
  return (
    <Stack gap={12}>
      {options.length > 0 && (
        <Choose options={options.map((o) => ({ value: o, text: o, note: tr("on the sheet") }))} value={value} onChoose={onSet} />
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
  const shown = typed ? givenWords(typed, v.word) : told(v.shown);
  if (v.worked)
    return (
      <span data-worked={v.name}>
        {v.shown && (
          <Num of={v.of!} number={v.number!}>
            <b>{told(v.shown)}</b>
          </Num>
        )}{" "}
        <span className="soft">{told(v.worked)}</span>
      </span>
    );
  return (
    <Word
      problem={draft.problem}
      mayChange={mayChange}
      name={told(v.text)}
      fields={[`values.${v.name}`, ...extra]}
      text={shown || told(v.usual) || (v.optional ? tr("not given") : tr("missing"))}
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
  return `${number(value.value)}${max ? tr(" to {max}", { max: number(max.value) }) : ""} ${value.unit || told(word)}`.trim();
}

const families = [torqueUnits, lengthUnits, ["bar", "MPa", "psi"]];

function ValueEditor({ value: v, onSet }: { value: Value; onSet: (g?: Given) => void }) {
  const [low, setLow] = useState(v.given ? String(v.given.value.value) : "");
  const [high, setHigh] = useState(v.given?.max ? String(v.given.max.value) : "");
  const torqueUnit = useTorqueUnit();
  const [unit, setUnit] = useState(v.given?.value.unit ?? (v.unit === "N·m" ? torqueUnit : v.unit));
  const units = families.find((f) => f.includes(v.unit)) ?? [v.unit];
  const l = readNumber(low);
  const h = high.trim() === "" ? undefined : readNumber(high);
  const shown = unit || told(v.word);
  const trials = (useWords().data?.lubricants ?? []).filter((l) => l.trial);
  return (
    <Form onSend={() => l !== undefined && onSet({ value: { value: l, unit }, ...(h === undefined ? {} : { max: { value: h, unit } }) })}>
      <p className="soft">
        {told(v.text)}
        {v.usual && tr(". Usual: {usual}, a starting value of ours; the maker’s own replaces it.", { usual: told(v.usual) })}
      </p>
      <Field label={tr("Value, or from")} value={low} onChange={setLow} unit={shown} first />
      <Field label={tr("To, where it is a range")} value={high} onChange={setHigh} unit={shown} />
      {units.length > 1 && <Units units={units} value={unit} onChange={setUnit} />}
      <Set disabled={l === undefined || (high.trim() !== "" && h === undefined)} />
      {v.lotK && trials.length > 0 && (
        <Choose
          options={trials.map((l) => ({
            value: l.name,
            text: told(l.name),
            note: tr("K {low} to {high}, by its trial", { low: number(l.low), high: number(l.high) }),
          }))}
          value=""
          onChoose={(name) => {
            const l = trials.find((x) => x.name === name);
            if (l) onSet({ value: { value: l.low, unit: "" }, max: { value: l.high, unit: "" } });
          }}
        />
      )}
      {!v.sheet && v.hand && v.optional && (
        <Button variant="default" onClick={() => onSet(undefined)}>
          {tr("Not given")}
        </Button>
      )}
      {v.sheet && v.hand && (
        <Button variant="default" onClick={() => onSet(undefined)}>
          {tr("Back to the sheet: {sheet}", { sheet: givenWords(v.sheet, v.word) })}
        </Button>
      )}
    </Form>
  );
}
