import { Button, Switch, Textarea } from "@mantine/core";
import { useState } from "react";
import { useWords } from "../../api/queries";
import type { Given, JobGroup, JobValue, Words } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import { Choose, Field, lengthUnits, Set, torqueUnits, Units } from "../layout/editors";
import { Differs } from "../layout/Differs";
import { Word } from "../layout/Word";
import classes from "./led.module.css";
import type { JobDraft } from "./useJobDraft";

interface SentenceProps {
  draft: JobDraft;
  mayChange: boolean;
}

/** What the joint is: its recipe, its nameplate, its variant. */
export function JobSentence({ draft, mayChange }: SentenceProps) {
  const { input, job, problem, change } = draft;
  const shared = { problem, mayChange };
  const types = job.recipe.types;
  const sizes = types.find((t) => t.type === input.type)?.sizes ?? [];
  return (
    <p className={classes.sentence}>
      {job.recipe.title}, nameplate{" "}
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
      {job.recipe.choices.map((c) => (
        <span key={c.name}>
          {"; "}
          {c.name}:{" "}
          <Word {...shared} name={c.text} fields={[`choices.${c.name}`]} text={input.choices[c.name] || "choose"}>
            {(close) => (
              <>
                <p className="soft">{c.text}?</p>
                {c.differ && <Differs about={c.differ} />}
                <Choose
                  options={c.options.map((o) => ({ value: o, text: o }))}
                  value={input.choices[c.name] ?? ""}
                  onChoose={(o) => {
                    close();
                    change({ choices: { ...input.choices, [c.name]: o } });
                  }}
                />
              </>
            )}
          </Word>
        </span>
      ))}
      .
    </p>
  );
}

/** A value off the nameplate: one of the sheet's, or typed. */
function Typed({ label, options, value, onSet }: { label: string; options: string[]; value: string; onSet: (v: string) => void }) {
  const [text, setText] = useState(options.includes(value) ? "" : value);
  return (
    <div className={classes.form}>
      {options.length > 0 && <Choose options={options.map((o) => ({ value: o, text: o, note: "on the sheet" }))} value={value} onChoose={onSet} />}
      <form
        className={classes.form}
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) onSet(text.trim());
        }}
      >
        <label className={classes.typed}>
          <span>{label}</span>
          <input value={text} onChange={(e) => setText(e.currentTarget.value)} maxLength={40} autoComplete="off" />
        </label>
        <Set disabled={!text.trim()} />
      </form>
    </div>
  );
}

/** A group of bolts in one sentence. */
export function GroupSentence({ draft, group: g, mayChange }: SentenceProps & { group: JobGroup }) {
  const words = useWords().data;
  const { problem, changeGroup } = draft;
  const shared = { problem, mayChange };
  const at = `groups.${g.name}`;
  const value = draft.job.values.find((v) => v.name === g.value);
  if (!words) return null;
  const set = (close: () => void) => (c: Parameters<typeof changeGroup>[1]) => {
    close();
    changeGroup(g.name, c);
  };
  return (
    <p className={classes.sentence}>
      <b>{capital(g.name)}</b>
      {": "}
      {g.of ? (
        <>the same bolts, </>
      ) : (
        <>
          {g.asked ? (
            <Word {...shared} name={`How many ${g.name}`} fields={[`${at}.count`, g.name]} text={g.count ? String(g.count) : "how many"}>
              {(close) => <Count group={g} onSet={(count) => set(close)({ count })} />}
            </Word>
          ) : (
            g.count
          )}{" "}
          ×{" "}
          <Word {...shared} name="Thread" fields={[`${at}.thread`]} text={g.thread || "thread"}>
            {(close) => <Choose options={words.threads.map((t) => ({ value: t.name, text: t.name, note: t.series }))} value={g.thread} onChoose={(thread) => set(close)({ thread })} />}
          </Word>{" "}
          <Word {...shared} name="Grade" fields={[`${at}.grade`]} text={g.grade || "grade"}>
            {(close) => <Choose options={words.grades.map((x) => ({ value: x, text: x }))} value={g.grade} onChoose={(grade) => set(close)({ grade })} />}
          </Word>
          ,{" "}
        </>
      )}
      {g.how === "torque" && (
        <>
          {g.short.includes("dry") ? "left " : "with "}
          <Word {...shared} name={`Lubrication of the ${g.name} on the job`} fields={[`${at}.lubrication`]} text={g.short || "lubrication"} width={380}>
            {(close) => (
              <>
                <Differs about="lubrication" />
                <Choose options={lubricants(words)} value={g.lubrication} onChoose={(lubrication) => set(close)({ lubrication, decision: "" })} />
              </>
            )}
          </Word>
          , to {value && <ValueWord draft={draft} value={value} mayChange={mayChange} extra={[`${at}.torque`]} />} written for{" "}
          <Word {...shared} name="Condition the torque was written for" fields={[`${at}.specifiedFor`]} text={words.lubricants.find((l) => l.name === g.specifiedFor)?.short ?? "which condition"} width={380}>
            {(close) => <Choose options={lubricants(words)} value={g.specifiedFor} onChoose={(specifiedFor) => set(close)({ specifiedFor, decision: "" })} />}
          </Word>
        </>
      )}
      {g.how === "pressure" && <>at the pump to {value && <ValueWord draft={draft} value={value} mayChange={mayChange} />}, until it stalls</>}
      {g.how === "turns" && <>by turns{value ? <> of <ValueWord draft={draft} value={value} mayChange={mayChange} /></> : null}</>}
      {g.how === "hand" && <>by hand</>}
      {g.how === "not torqued" && <>home by hand; must not be torqued</>}
      {g.stages.length > 1 && <>, in {g.stages.join("-")} %</>}
      {g.count > 2 && g.patternWords && (
        <>
          ,{" "}
          {g.orders.length > 0 ? (
            <Word {...shared} name={`Order of the ${g.name}`} fields={[at, `${at}.order`]} text={g.patternWords}>
              {(close) => (
                <>
                  <Choose options={g.orders.map((o) => ({ value: o.name, text: o.words, note: o.against ? "against this kind" : undefined }))} value={g.pattern} onChoose={(order) => set(close)({ order })} />
                  <Differs about="orders" />
                  <Switch className={classes.switch} size="lg" label="A bolt stands at 12 o’clock" checked={g.onCentre} onChange={(e) => set(close)({ onCentre: e.currentTarget.checked })} />
                </>
              )}
            </Word>
          ) : (
            g.patternWords
          )}
        </>
      )}
      {g.portion > 0 ? (
        <>, round and round, {turnWords(g.portion)} at a time until each holds</>
      ) : g.stands ? (
        <>, tight already: round until nothing moves</>
      ) : (
        g.still && <>, then round and round until nothing moves</>
      )}
      {g.lock && <>; after each: {g.lock}</>}.
    </p>
  );
}

/** Degrees as a hand turns them. */
export const turnWords = (degrees: number) => ({ 90: "a quarter turn", 180: "half a turn", 360: "one full turn" })[degrees] ?? `${degrees}°`;

export const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

const lubricants = (words: Words) => words.lubricants.map((l) => ({ value: l.name, text: l.name, note: `K ${l.low} · ${l.nominal} · ${l.high}` }));

function Count({ group: g, onSet }: { group: JobGroup; onSet: (n: number) => void }) {
  const [text, setText] = useState(g.count ? String(g.count) : "");
  const v = readNumber(text);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (v !== undefined) onSet(Math.trunc(v));
      }}
    >
      <Field label={`How many; ${g.least} to ${g.most}`} value={text} onChange={setText} first />
      <Set disabled={v === undefined} />
    </form>
  );
}

export function givenWords(g: Given | undefined, word: string) {
  if (!g) return "missing";
  const unit = g.value.unit || word;
  return `${g.max ? `${number(g.value.value)} to ${number(g.max.value)}` : number(g.value.value)} ${unit}`.trim();
}

/** A value as a word: the sheet's, or one by hand. */
export function ValueWord({ draft, value: v, mayChange, extra = [] }: SentenceProps & { value: JobValue; extra?: string[] }) {
  const { input, change } = draft;
  return (
    <Word problem={draft.problem} mayChange={mayChange} name={v.text} fields={[`values.${v.name}`, ...extra]} text={givenWords(v.given, v.word)}>
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

const families = [torqueUnits, lengthUnits, ["bar", "MPa", "psi"]];

function ValueEditor({ value: v, onSet }: { value: JobValue; onSet: (g?: Given) => void }) {
  const [low, setLow] = useState(v.given ? String(v.given.value.value) : "");
  const [high, setHigh] = useState(v.given?.max ? String(v.given.max.value) : "");
  const [unit, setUnit] = useState(v.given?.value.unit ?? v.unit);
  const units = families.find((f) => f.includes(v.unit)) ?? [v.unit];
  const l = readNumber(low);
  const h = high.trim() === "" ? undefined : readNumber(high);
  const shown = unit || v.word;
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (l !== undefined) onSet({ value: { value: l, unit }, ...(h === undefined ? {} : { max: { value: h, unit } }) });
      }}
    >
      <p className="soft">{v.text}</p>
      <Field label="Value, or from" value={low} onChange={setLow} unit={shown} first />
      <Field label="To, where it is a range" value={high} onChange={setHigh} unit={shown} />
      {units.length > 1 && <Units units={units} value={unit} onChange={setUnit} />}
      <Set disabled={l === undefined || (high.trim() !== "" && h === undefined)} />
      {v.sheet && v.hand && (
        <Button variant="default" onClick={() => onSet(undefined)}>
          Back to the sheet: {givenWords(v.sheet, v.word)}
        </Button>
      )}
    </form>
  );
}

/** Why something is not as the kind has it: the engineer's reason, kept with the plan. */
export function Reason({ group, value, onSet }: { group: string; value: string; onSet: (reason: string) => void }) {
  const [text, setText] = useState(value);
  return (
    <form
      className={classes.reason}
      onSubmit={(e) => {
        e.preventDefault();
        onSet(text.trim());
      }}
    >
      <Textarea label={`The engineer’s reason, for the ${group}`} value={text} onChange={(e) => setText(e.currentTarget.value)} autosize minRows={1} maxLength={500} name="reason" />
      <Button type="submit" variant="default" disabled={text.trim() === value}>
        Keep the reason
      </Button>
    </form>
  );
}

