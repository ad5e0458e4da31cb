import { Switch, Textarea, Button } from "@mantine/core";
import { useState } from "react";
import { useWords } from "../../api/queries";
import type { JobBolts, JobGroup, Words } from "../../api/types";
import { readNumber } from "../../ui/format";
import { Choose, Field, lengthUnits, Set, Units } from "../layout/editors";
import { Differs } from "../layout/Differs";
import { Word } from "../layout/Word";
import { type SentenceProps, ValueWord } from "./JobSentence";
import classes from "./led.module.css";
import { capital, turnWords } from "./words";

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
          {g.rows > 0 && (
            <>
              {" in "}
              <Word {...shared} name={`How the ${g.name} lie`} fields={[`${at}.rows`, `${at}.across`]} text={`${g.rows} × ${g.cols}`}>
                {(close) => <Rows group={g} bolts={draft.input.groups[g.name]} onSet={(v) => set(close)(v)} />}
              </Word>
            </>
          )}
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
      {g.staged && (
        <>
          , in{" "}
          <Word {...shared} name={`Stages of the ${g.name}`} fields={[`${at}.stages`]} text={g.stages.length > 1 ? `${g.stages.join("-")} %` : "one go"} width={380}>
            {(close) => (
              <>
                <Differs about="stages" />
                <Choose
                  options={[{ value: "", text: "as the recipe has it" }, ...words.presets.map((p) => ({ value: p.name, text: `${p.name} %`, note: p.usual }))]}
                  value={draft.input.groups[g.name]?.stages ?? ""}
                  onChoose={(stages) => set(close)({ stages })}
                />
              </>
            )}
          </Word>
        </>
      )}
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

/** How the bolts of a plate lie: its rows, and its pitches where they are not alike. */
function Rows({ group: g, bolts, onSet }: { group: JobGroup; bolts?: JobBolts; onSet: (v: Pick<JobBolts, "rows" | "across" | "down">) => void }) {
  const [rows, setRows] = useState(String(g.rows));
  const [across, setAcross] = useState(bolts?.across ? String(bolts.across.value) : "");
  const [down, setDown] = useState(bolts?.down ? String(bolts.down.value) : "");
  const [unit, setUnit] = useState(bolts?.across?.unit ?? "mm");
  const r = readNumber(rows);
  const pitch = (text: string) => {
    const value = readNumber(text);
    return value === undefined ? undefined : { value, unit };
  };
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (r !== undefined) onSet({ rows: Math.trunc(r), across: pitch(across), down: pitch(down) });
      }}
    >
      <Field label={`Rows of the ${g.count} bolts`} value={rows} onChange={setRows} first />
      <Field label="Pitch along a row, where they are not alike" value={across} onChange={setAcross} unit={unit} />
      <Field label="Pitch between rows" value={down} onChange={setDown} unit={unit} />
      <Units units={lengthUnits} value={unit} onChange={setUnit} />
      <Set disabled={r === undefined || (across.trim() !== "") !== (down.trim() !== "")} />
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
