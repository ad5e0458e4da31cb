import { Button, SegmentedControl, Switch, Textarea } from "@mantine/core";
import { useState } from "react";
import { useWords } from "../../api/queries";
import type { Bolts, Group, Words } from "../../api/types";
import { number, percent, readNumber } from "../../ui/format";
import { capital, turnWords } from "../words";
import { Differs } from "./Differs";
import { Amount, Choose, Field, lengthUnits, Set, torqueUnits, Units } from "./editors";
import classes from "./layout.module.css";
import { type SentenceProps, ValueWord } from "./Sentence";
import { Word } from "./Word";

/** A group of bolts in one sentence. */
export function GroupSentence({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  const words = useWords().data;
  const { problem, changeGroup } = draft;
  const shared = { problem, mayChange };
  const at = `groups.${g.name}`;
  const value = draft.draft.values.find((v) => v.name === g.value);
  if (!words) return null;
  const set = (close: () => void) => (c: Bolts) => {
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
            <Word
              {...shared}
              name={`How many ${g.name}`}
              fields={[`${at}.count`]}
              text={String((problem && draft.input.groups[g.name]?.count) || g.count || "how many")}
            >
              {(close) => <Count group={g} onSet={(count) => set(close)({ count })} />}
            </Word>
          ) : (
            g.count
          )}{" "}
          ×{" "}
          <Word {...shared} name="Thread" fields={[`${at}.thread`]} text={g.thread || "thread"}>
            {(close) => (
              <Choose
                options={words.threads.map((t) => ({ value: t.name, text: t.name, note: t.series }))}
                value={g.thread}
                onChoose={(thread) => set(close)({ thread })}
              />
            )}
          </Word>{" "}
          <Word {...shared} name="Grade" fields={[`${at}.grade`]} text={g.grade || "grade"}>
            {(close) => (
              <Choose
                options={words.grades.map((x) => ({ value: x, text: x }))}
                value={g.grade}
                onChoose={(grade) => set(close)({ grade })}
              />
            )}
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
          {g.isDry ? "left " : "with "}
          <Word
            {...shared}
            name={`Lubrication of the ${g.name} on the job`}
            fields={[`${at}.lubrication`]}
            text={g.short || "lubrication"}
            width={380}
          >
            {(close) => (
              <>
                <Differs about="lubrication" />
                <Choose
                  options={lubricants(words)}
                  value={g.lubrication}
                  onChoose={(lubrication) => set(close)({ lubrication, decision: "" })}
                />
              </>
            )}
          </Word>
          , to <Target {...shared} draft={draft} group={g} value={value} onSet={set} />
          {!g.share && (
            <>
              {" written for "}
              <Word
                {...shared}
                name="Condition the torque was written for"
                fields={[`${at}.specifiedFor`, `${at}.decision`]}
                text={words.lubricants.find((l) => l.name === g.specifiedFor)?.short ?? "which condition"}
                width={380}
              >
                {(close) => (
                  <Choose
                    options={lubricants(words)}
                    value={g.specifiedFor}
                    onChoose={(specifiedFor) => set(close)({ specifiedFor, decision: "" })}
                  />
                )}
              </Word>
            </>
          )}
          {g.prevailing > 0 && (
            <>
              {" over "}
              <Prevailing {...shared} group={g} bolts={draft.input.groups[g.name]} onSet={set} />
            </>
          )}
        </>
      )}
      {g.how === "pressure" && (
        <>at the pump to {value && <ValueWord draft={draft} value={value} mayChange={mayChange} />}, until it stalls</>
      )}
      {g.how === "turns" && (
        <>
          by turns
          {value ? (
            <>
              {" "}
              of <ValueWord draft={draft} value={value} mayChange={mayChange} />
            </>
          ) : null}
        </>
      )}
      {g.how === "hand" && <>by hand</>}
      {g.how === "not torqued" && <>home by hand; must not be torqued</>}
      {g.staged && (
        <>
          , in{" "}
          <Word
            {...shared}
            name={`Stages of the ${g.name}`}
            fields={[`${at}.stages`]}
            text={g.stages.length > 1 ? `${g.stages.join("-")} %` : "one go"}
            width={380}
          >
            {(close) => (
              <>
                <Differs about="stages" />
                <Choose
                  options={[
                    { value: "", text: "as the recipe has it" },
                    ...words.presets.map((p) => ({ value: p.name, text: `${p.name} %`, note: p.usual })),
                  ]}
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
            <Word
              {...shared}
              name={`Order of the ${g.name}`}
              fields={[`${at}.order`, `${at}.start`]}
              text={g.start > 1 ? `${g.patternWords} from bolt ${g.start}` : g.patternWords}
            >
              {(close) => (
                <>
                  <Choose
                    options={g.orders.map((o) => ({ value: o.name, text: o.words, note: o.against ? "against this kind" : undefined }))}
                    value={g.pattern}
                    onChoose={(order) => set(close)({ order })}
                  />
                  <Differs about="orders" />
                  {g.ring && <Start group={g} onSet={set(close)} />}
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

interface TargetProps extends SentenceProps {
  problem: SentenceProps["draft"]["problem"];
  group: Group;
  value?: Parameters<typeof ValueWord>[0]["value"];
  onSet: (close: () => void) => (c: Bolts) => void;
}

/** What a group is pulled to: the maker's torque, or a share of its strength. */
function Target({ draft, mayChange, problem, group: g, value, onSet }: TargetProps) {
  const at = `groups.${g.name}`;
  return (
    <>
      {g.share > 0 ? (
        <Word
          problem={problem}
          mayChange={mayChange}
          name="Share of its strength"
          fields={[`${at}.share`, `${at}.shareOf`]}
          text={`${percent(g.share)} % of ${g.shareOf}`}
          width={380}
        >
          {(close) => <Share group={g} onSet={onSet(close)} />}
        </Word>
      ) : (
        value && <ValueWord draft={draft} value={value} mayChange={mayChange} extra={[`${at}.torque`]} />
      )}
      {!g.share && !g.stands && mayChange && (
        <>
          {" "}
          <Word
            problem={problem}
            mayChange={mayChange}
            name="Another way to say the torque"
            fields={[`${at}.share`, `${at}.prevailing`]}
            text="or otherwise"
            width={380}
            quiet
          >
            {(close) => (
              <>
                <p className="soft">Worked out from a share of the bolt’s strength. A maker’s torque wins.</p>
                <Share group={g} onSet={onSet(close)} />
                <p className={classes.between}>A nut that locks itself turns hard before it seats:</p>
                <Amount
                  label="Torque to run it down"
                  value={draft.input.groups[g.name]?.prevailing ?? { value: 0, unit: "N·m" }}
                  units={torqueUnits}
                  onSet={(prevailing) => onSet(close)({ prevailing })}
                />
              </>
            )}
          </Word>
        </>
      )}
    </>
  );
}

function Share({ group: g, onSet }: { group: Group; onSet: (c: Bolts) => void }) {
  const [text, setText] = useState(String(Math.round((g.share || 0.5) * 1000) / 10));
  const [of, setOf] = useState(g.shareOf || "yield");
  const v = readNumber(text);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (v !== undefined) onSet({ share: v / 100, shareOf: of === "proof" ? "proof" : "yield", decision: "" });
      }}
    >
      <Field label="Share of its strength" value={text} onChange={setText} unit="%" first />
      <SegmentedControl data={["yield", "proof"]} value={of} onChange={setOf} fullWidth size="md" />
      <Set disabled={v === undefined} />
      {g.share > 0 && (
        <Button variant="default" onClick={() => onSet({ share: undefined, shareOf: "" })}>
          Back to a torque that is given
        </Button>
      )}
    </form>
  );
}

interface PrevailingProps {
  problem: SentenceProps["draft"]["problem"];
  mayChange: boolean;
  group: Group;
  bolts?: Bolts;
  onSet: (close: () => void) => (c: Bolts) => void;
}

function Prevailing({ problem, mayChange, group: g, bolts, onSet }: PrevailingProps) {
  return (
    <Word
      problem={problem}
      mayChange={mayChange}
      name="Torque to run the nut down"
      fields={[`groups.${g.name}.prevailing`]}
      text={`${number(g.prevailing)} N·m to run it down`}
    >
      {(close) => (
        <Amount
          label="Torque to run it down; 0 for none"
          value={bolts?.prevailing ?? { value: 0, unit: "N·m" }}
          units={torqueUnits}
          onSet={(prevailing) => onSet(close)({ prevailing })}
        />
      )}
    </Word>
  );
}

/** Where a ring's order begins, and whether a bolt stands at the top. */
function Start({ group: g, onSet }: { group: Group; onSet: (c: Bolts) => void }) {
  const [text, setText] = useState(String(g.start || 1));
  const v = readNumber(text);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (v !== undefined) onSet({ start: Math.trunc(v) });
      }}
    >
      <Field label={`Begin at bolt, 1 to ${g.count}`} value={text} onChange={setText} />
      <Set disabled={v === undefined} />
      <Switch
        size="lg"
        label="A bolt stands at 12 o’clock"
        checked={g.onCentre}
        onChange={(e) => onSet({ onCentre: e.currentTarget.checked })}
      />
    </form>
  );
}

const lubricants = (words: Words) =>
  words.lubricants.map((l) => ({ value: l.name, text: l.name, note: `K ${l.low} · ${l.nominal} · ${l.high}` }));

function Count({ group: g, onSet }: { group: Group; onSet: (n: number) => void }) {
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
      <Textarea
        label={`The engineer’s reason, for the ${group}`}
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
        autosize
        minRows={1}
        maxLength={500}
        name="reason"
      />
      <Button type="submit" variant="default" disabled={text.trim() === value}>
        Keep the reason
      </Button>
    </form>
  );
}
