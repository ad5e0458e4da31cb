import { Button, Stack, Switch, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useWords } from "../../api/queries";
import type { Bolts, Group, Words } from "../../api/types";
import { Form } from "../../ui/Form";
import { number, readNumber } from "../../ui/format";
import { Prevailing, Target } from "./Aims";
import { capital, turnWords } from "../words";
import { Differs } from "./Differs";
import { Choose, Field, lengthUnits, Set, Units, Whole } from "./editors";
import classes from "./layout.module.css";
import { Grade } from "./Grade";
import { Listed } from "./Listed";
import { type SentenceProps, ValueWord } from "./Sentence";
import { LetGo } from "../numbers/LetGo";
import { Word } from "./Word";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** A group of bolts in one sentence. */
export function GroupSentence({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  const words = useWords().data;
  const { problem, changeGroup } = draft;
  const shared = { problem, mayChange };
  const at = `groups.${g.name}`;
  const value = draft.draft.values.find((v) => v.name === g.value);
  if (!words) return null;
  const change = (c: Bolts) => changeGroup(g.name, c);
  const set = (close: () => void) => (c: Bolts) => {
    close();
    change(c);
  };
  return (
    <p className={classes.sentence}>
      <b>{capital(told(g.name))}</b>
      {": "}
      {g.of ? (
        <>{tr("the same bolts,")} </>
      ) : (
        <>
          {g.asked ? (
            <Word
              {...shared}
              name={tr("How many {group}", { group: told(g.name) })}
              fields={[`${at}.count`]}
              text={String((problem && draft.input.groups[g.name]?.count) || g.count || tr("how many"))}
            >
              {(close) => (
                <Whole
                  label={tr("How many; {least} to {most}", { least: g.least, most: g.most })}
                  value={g.count}
                  onSet={(count) => set(close)({ count })}
                  first
                />
              )}
            </Word>
          ) : (
            g.count
          )}{" "}
          ×{" "}
          <Listed
            {...shared}
            name={tr("Thread")}
            fields={[`${at}.thread`]}
            text={g.thread || tr("thread")}
            options={words.threads.map((t) => ({ value: t.name, text: t.name, note: t.series }))}
            value={g.thread}
            onChoose={(thread) => change({ thread })}
          />{" "}
          <Word {...shared} name={tr("Grade")} fields={[`${at}.grade`]} text={g.grade || tr("grade")}>
            {(close) => <Grade grades={words.grades} bolts={draft.input.groups[g.name]} value={g.grade} onSet={set(close)} />}
          </Word>
          {g.rows > 0 && (
            <>
              {` ${tr("in")} `}
              <Word
                {...shared}
                name={tr("How the {group} lie", { group: told(g.name) })}
                fields={[`${at}.rows`, `${at}.across`]}
                text={`${g.rows} × ${g.cols}`}
              >
                {(close) => <Rows group={g} bolts={draft.input.groups[g.name]} onSet={(v) => set(close)(v)} />}
              </Word>
            </>
          )}
          ,{" "}
        </>
      )}
      {g.how === "torque" && value?.worked && (
        <>
          <Say
            of="{lubrication}, to {valueword}"
            with={{
              lubrication: told(g.lubrication) || tr("as delivered"),
              valueword: <ValueWord draft={draft} value={value} mayChange={mayChange} />,
            }}
          />
        </>
      )}
      {g.how === "torque" && !value?.worked && (
        <>
          <Say
            of={g.isDry ? "left {condition}, to {target}{written}{over}" : "with {condition}, to {target}{written}{over}"}
            with={{
              condition: (
                <Listed
                  {...shared}
                  name={tr("Lubrication of the {group} on the job", { group: told(g.name) })}
                  fields={[`${at}.lubrication`]}
                  text={told(g.short) || tr("lubrication")}
                  about="lubrication"
                  options={lubricants(words)}
                  value={g.lubrication}
                  onChoose={(lubrication) => change({ lubrication, decision: "" })}
                />
              ),
              target: <Target mayChange={mayChange} draft={draft} group={g} value={value} onSet={set} />,
              written: !g.aim && (
                <Say
                  of=" written for {condition}"
                  with={{
                    condition: (
                      <Listed
                        {...shared}
                        name={tr("Condition the torque was written for")}
                        fields={[`${at}.specifiedFor`, `${at}.decision`]}
                        text={told(words.lubricants.find((l) => l.name === g.specifiedFor)?.short) ?? tr("which condition")}
                        options={lubricants(words)}
                        value={g.specifiedFor}
                        onChoose={(specifiedFor) => change({ specifiedFor, decision: "" })}
                      />
                    ),
                  }}
                />
              ),
              over: g.prevailing > 0 && (
                <Say
                  of=" over {prevailing}"
                  with={{
                    prevailing: (
                      <Word
                        {...shared}
                        name={tr("Torque to run the nut down")}
                        fields={[`${at}.prevailing`]}
                        text={tr("{prevailing} N·m to run it down", { prevailing: number(g.prevailing) })}
                      >
                        {(close) => <Prevailing bolts={draft.input.groups[g.name]} onSet={set(close)} />}
                      </Word>
                    ),
                  }}
                />
              ),
            }}
          />
        </>
      )}
      {g.how === "tension" && (
        <Say
          of={g.drawn?.halves ? "drawn, every other bolt first, to leave {load} in each" : "drawn at once, to leave {load} in each"}
          with={{ load: value && <ValueWord draft={draft} value={value} mayChange={mayChange} /> }}
        />
      )}
      {g.how === "pressure" && (
        <>
          <Say
            of="at the pump to {value}, until it stalls"
            with={{ value: value && <ValueWord draft={draft} value={value} mayChange={mayChange} /> }}
          />
        </>
      )}
      {g.how === "turns" &&
        (value ? (
          <Say of="by turns of {value}" with={{ value: <ValueWord draft={draft} value={value} mayChange={mayChange} /> }} />
        ) : (
          tr("by turns")
        ))}
      {g.breakout && (
        <>
          <Say
            of="; they stood {age}, and let go at {letgo}"
            with={{
              age: (
                <Listed
                  {...shared}
                  name={tr("How they have stood")}
                  fields={[`${at}.held`]}
                  text={told(g.breakout.age)}
                  options={g.breakout.ages.map((a) => ({ value: a, text: told(a) }))}
                  value={g.breakout.age}
                  onChoose={(age) => change({ held: { ...draft.input.groups[g.name]?.held, age } })}
                />
              ),
              letgo: <LetGo of={g.name} range={g.breakout} />,
            }}
          />
        </>
      )}
      {g.how === "hand" && <>{tr("by hand")}</>}
      {g.how === "not torqued" && <>{tr("home by hand; must not be torqued")}</>}
      {g.staged && (
        <>
          {`, ${tr("in")} `}
          <Listed
            {...shared}
            name={tr("Stages of the {group}", { group: told(g.name) })}
            fields={[`${at}.stages`]}
            text={g.stages.length > 1 ? `${g.stages.join("-")} %` : tr("one go")}
            about="stages"
            options={[
              { value: "", text: tr("as the recipe has it") },
              ...words.presets.map((p) => ({ value: p.name, text: `${told(p.name)} %`, note: told(p.usual) })),
            ]}
            value={draft.input.groups[g.name]?.stages ?? ""}
            onChoose={(stages) => change({ stages })}
          />
        </>
      )}
      {g.count > 2 && g.patternWords && (
        <>
          ,{" "}
          {g.orders.length > 0 ? (
            <Word
              {...shared}
              name={tr("Order of the {group}", { group: told(g.name) })}
              fields={[`${at}.order`, `${at}.start`]}
              text={
                g.start > 1
                  ? tr("{patternWords} from bolt {start}", { patternWords: told(g.patternWords), start: g.start })
                  : told(g.patternWords)
              }
            >
              {(close) => (
                <>
                  <Choose
                    options={g.orders.map((o) => ({
                      value: o.name,
                      text: told(o.words),
                      note: o.against ? tr("against this kind") : undefined,
                    }))}
                    value={g.pattern}
                    onChoose={(order) => set(close)({ order })}
                  />
                  <Differs about="orders" />
                  {g.ring && <Start group={g} onSet={set(close)} />}
                </>
              )}
            </Word>
          ) : (
            told(g.patternWords)
          )}
        </>
      )}
      {g.portion > 0 ? (
        <>{tr(", round and round, {portion} at a time until each holds", { portion: turnWords(g.portion) })}</>
      ) : g.stands ? (
        <>{tr(", tight already: round until nothing moves")}</>
      ) : (
        g.still && <>{tr(", then round and round until nothing moves")}</>
      )}
      {g.lock && <>{tr("; after each: {lock}", { lock: told(g.lock) })}</>}.
    </p>
  );
}

/** Where a ring's order begins, and whether a bolt stands at the top. */
function Start({ group: g, onSet }: { group: Group; onSet: (c: Bolts) => void }) {
  return (
    <Stack gap={12}>
      <Whole label={tr("Begin at bolt, 1 to {number}", { number: g.count })} value={g.start || 1} onSet={(start) => onSet({ start })} />
      <Switch
        size="lg"
        label={tr("A bolt stands at 12 o’clock")}
        checked={g.onCentre}
        onChange={(e) => onSet({ onCentre: e.currentTarget.checked })}
      />
    </Stack>
  );
}

const lubricants = (words: Words) =>
  words.lubricants.map((l) => ({ value: l.name, text: told(l.name), note: `K ${l.low} · ${l.nominal} · ${l.high}` }));

/** How the bolts of a plate lie: its rows, and its pitches where they are not alike. */
function Rows({ group: g, bolts, onSet }: { group: Group; bolts?: Bolts; onSet: (v: Pick<Bolts, "rows" | "across" | "down">) => void }) {
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
    <Form onSend={() => r !== undefined && onSet({ rows: Math.trunc(r), across: pitch(across), down: pitch(down) })}>
      <Field label={tr("Rows of the {count} bolts", { count: g.count })} value={rows} onChange={setRows} first />
      <Field label={tr("Pitch along a row, where they are not alike")} value={across} onChange={setAcross} unit={unit} />
      <Field label={tr("Pitch between rows")} value={down} onChange={setDown} unit={unit} />
      <Units units={lengthUnits} value={unit} onChange={setUnit} />
      <Set disabled={r === undefined || (across.trim() !== "") !== (down.trim() !== "")} />
    </Form>
  );
}

/** Why something is not as the kind has it: the engineer's reason, kept with the plan. */
export function Reason({ group, value, onSet }: { group: string; value: string; onSet: (reason: string) => void }) {
  const [text, setText] = useInputState(value);
  return (
    <Form onSend={() => onSet(text.trim())}>
      <Textarea
        label={tr("The engineer’s reason, for the {group}", { group: told(group) })}
        value={text}
        onChange={setText}
        name="reason"
      />
      <Button type="submit" variant="default" disabled={text.trim() === value}>
        {tr("Keep the reason")}
      </Button>
    </Form>
  );
}
