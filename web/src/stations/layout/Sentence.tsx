import { Button, SegmentedControl, Switch, TextInput } from "@mantine/core";
import { useState } from "react";
import type { PlanInput, Words } from "../../api/types";
import { number, percent, readNumber } from "../../ui/format";
import { Amount, Choose, Field, lengthUnits, Set, torqueUnits, Units } from "./editors";
import type { Change, DraftState } from "./useDraft";
import { Differs } from "./Differs";
import { Word } from "./Word";
import classes from "./layout.module.css";

interface SentenceProps {
  words: Words;
  draft: DraftState;
  mayChange: boolean;
}

/** The joint in one sentence, each underlined word a control. */
export function Sentence({ words, draft, mayChange }: SentenceProps) {
  const { input: in_, problem, change } = draft;
  const shared = { problem, mayChange };
  const set = (close: () => void) => (c: Change) => {
    close();
    change(c);
  };
  const short = (name: string) => words.lubricants.find((l) => l.name === name)?.short ?? name;
  const lubricants = words.lubricants.map((l) => ({ value: l.name, text: l.name, note: `K ${l.low} · ${l.nominal} · ${l.high}` }));
  const specified = in_.target.mode === "specified";
  const differs = specified && in_.specifiedFor !== in_.lubrication;
  return (
    <p className={classes.sentence}>
      A gasketed flange with{" "}
      <Word {...shared} name="Bolts" fields={["bolts"]} text={String(in_.bolts)}>
        {(close) => <Count label="Bolts in the ring" value={in_.bolts} onSet={(bolts) => set(close)({ bolts })} />}
      </Word>{" "}
      ×{" "}
      <Word {...shared} name="Thread" fields={["thread"]} text={in_.thread}>
        {(close) => <Choose options={words.threads.map((t) => ({ value: t.name, text: t.name, note: t.series }))} value={in_.thread} onChoose={(thread) => set(close)({ thread })} />}
      </Word>{" "}
      <Word {...shared} name="Fastening" fields={["fastening"]} text={in_.fastening}>
        {(close) => <Choose options={words.fastenings.map((f) => ({ value: f, text: f }))} value={in_.fastening} onChoose={(fastening) => set(close)({ fastening })} />}
      </Word>
      ,{" "}
      <Word {...shared} name="Grade" fields={["grade"]} text={in_.grade}>
        {(close) => <Choose options={words.grades.map((g) => ({ value: g, text: g }))} value={in_.grade} onChoose={(grade) => set(close)({ grade })} />}
      </Word>
      , on a{" "}
      <Word {...shared} name="Bolt circle" fields={["boltCircle"]} text={`${number(in_.boltCircle.value)} ${in_.boltCircle.unit}`}>
        {(close) => <Amount label="Bolt circle" value={in_.boltCircle} units={lengthUnits} onSet={(boltCircle) => set(close)({ boltCircle })} />}
      </Word>{" "}
      circle, over a{" "}
      <Word {...shared} name="Gasket" fields={["gasket"]} text={`${in_.gasket.kind} ${number(in_.gasket.outer.value)} / ${number(in_.gasket.inner.value)} ${in_.gasket.inner.unit}`}>
        {(close) => <GasketEditor words={words} gasket={in_.gasket} onSet={(gasket) => set(close)({ gasket })} />}
      </Word>
      , {short(in_.lubrication).includes("dry") ? "left" : "greased with"}{" "}
      <Word {...shared} name="Lubrication on the job" fields={["lubrication"]} text={short(in_.lubrication)} width={380}>
        {(close) => (
          <>
            <Differs about="lubrication" />
            <Choose
              options={lubricants}
              value={in_.lubrication}
              onChoose={(lubrication) => set(close)({ lubrication, decision: "", ...(specified ? {} : { specifiedFor: lubrication }) })}
            />
          </>
        )}
      </Word>
      , pulled to{" "}
      <Word {...shared} name="Target" fields={["target", "prevailing"]} text={targetText(in_)} width={380}>
        {(close) => <TargetEditor target={in_.target} onSet={(target) => set(close)({ target, decision: "" })} />}
      </Word>{" "}
      {specified && (
        <>
          written for{" "}
          <Word {...shared} name="Lubrication the torque was written for" fields={["specifiedFor"]} text={short(in_.specifiedFor)} width={380}>
            {(close) => <Choose options={lubricants} value={in_.specifiedFor} onChoose={(specifiedFor) => set(close)({ specifiedFor, decision: "" })} />}
          </Word>{" "}
        </>
      )}
      {differs && (
        <>
          and{" "}
          <Word {...shared} name="What to do about the other lubrication" fields={["decision"]} text={decisions[in_.decision].text}>
            {(close) => (
              <Choose
                options={(["equivalent", "keep"] as const).map((d) => ({ value: d, ...decisions[d] }))}
                value={in_.decision}
                onChoose={(d) => set(close)({ decision: d as PlanInput["decision"] })}
              />
            )}
          </Word>{" "}
        </>
      )}
      in{" "}
      <Word {...shared} name="Passes" fields={["passes"]} text={in_.passes.join("-")}>
        {(close) => (
          <>
            <Differs about="stages" />
            <PassesEditor words={words} passes={in_.passes} onSet={(passes) => set(close)({ passes })} />
          </>
        )}
      </Word>
      ,{" "}
      <Word {...shared} name="Order" fields={["order", "start"]} text={words.orders.find((o) => o.name === in_.order)?.words ?? in_.order}>
        {(close) => (
          <>
            <Differs about="orders" />
            <OrderEditor words={words} input={in_} onSet={set(close)} />
          </>
        )}
      </Word>
      , then check rounds until nothing moves; gap even within{" "}
      <Word {...shared} name="Gap limit" fields={["gapLimit"]} text={`${number(in_.gapLimit.value)} ${in_.gapLimit.unit}`}>
        {(close) => <Amount label="Most the gap may differ" value={in_.gapLimit} units={lengthUnits} onSet={(gapLimit) => set(close)({ gapLimit })} />}
      </Word>
      .
    </p>
  );
}

const decisions = {
  "": { text: "not decided", note: undefined },
  equivalent: { text: "taken as its equivalent", note: "the same load as it was written for" },
  keep: { text: "kept as written", note: "another load than it was written for" },
};

function targetText(in_: PlanInput) {
  const { target: t } = in_;
  if (t.mode === "share") return `${percent(t.share)} % of ${t.of}`;
  if (!t.torque) return "a torque";
  return t.max ? `${number(t.torque.value)} to ${number(t.max.value)} ${t.torque.unit}` : `${number(t.torque.value)} ${t.torque.unit}`;
}

function Count({ label, value, onSet }: { label: string; value: number; onSet: (n: number) => void }) {
  const [text, setText] = useState(String(value));
  const v = readNumber(text);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (v !== undefined) onSet(Math.trunc(v));
      }}
    >
      <Field label={label} value={text} onChange={setText} first />
      <Set disabled={v === undefined} />
    </form>
  );
}

function GasketEditor({ words, gasket, onSet }: { words: Words; gasket: PlanInput["gasket"]; onSet: (g: PlanInput["gasket"]) => void }) {
  const [kind, setKind] = useState(gasket.kind);
  const [outer, setOuter] = useState(String(gasket.outer.value));
  const [inner, setInner] = useState(String(gasket.inner.value));
  const [unit, setUnit] = useState(gasket.outer.unit);
  const usual = words.gaskets.find((g) => g.name === kind)?.seatingStress;
  const [stress, setStress] = useState(gasket.seatingStress ? String(gasket.seatingStress.value) : "");
  const o = readNumber(outer);
  const i = readNumber(inner);
  const s = stress.trim() === "" ? undefined : readNumber(stress);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (o === undefined || i === undefined) return;
        onSet({ kind, outer: { value: o, unit }, inner: { value: i, unit }, ...(s === undefined ? {} : { seatingStress: { value: s, unit: "MPa" } }) });
      }}
    >
      <Choose options={words.gaskets.map((g) => ({ value: g.name, text: g.name }))} value={kind} onChoose={setKind} />
      <div className={classes.two}>
        <Field label="Outside" value={outer} onChange={setOuter} unit={unit} />
        <Field label="Inside" value={inner} onChange={setInner} unit={unit} />
      </div>
      <Units units={lengthUnits} value={unit} onChange={setUnit} />
      <Field label={`Seats at (from its maker; ${usual ?? "–"} MPa if left empty)`} value={stress} onChange={setStress} unit="MPa" />
      <Set disabled={o === undefined || i === undefined || (stress.trim() !== "" && s === undefined)} />
    </form>
  );
}

function TargetEditor({ target, onSet }: { target: PlanInput["target"]; onSet: (t: PlanInput["target"]) => void }) {
  const [mode, setMode] = useState<string>(target.mode);
  const [low, setLow] = useState(target.torque ? String(target.torque.value) : "");
  const [high, setHigh] = useState(target.max ? String(target.max.value) : "");
  const [unit, setUnit] = useState(target.torque?.unit ?? "N·m");
  const [share, setShare] = useState(String(Math.round(target.share * 10000) / 100));
  const [of, setOf] = useState<string>(target.of);
  const l = readNumber(low);
  const h = high.trim() === "" ? undefined : readNumber(high);
  const s = readNumber(share);
  const ready = mode === "share" ? s !== undefined : l !== undefined && (high.trim() === "" || h !== undefined);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        const base = { share: (s ?? 0) / 100, of: of as "yield" | "proof" };
        if (mode === "share") onSet({ ...base, mode: "share" });
        else if (l !== undefined) onSet({ ...base, mode: "specified", torque: { value: l, unit }, ...(h === undefined ? {} : { max: { value: h, unit } }) });
      }}
    >
      <SegmentedControl
        data={[
          { value: "specified", label: "the maker’s torque" },
          { value: "share", label: "a share of strength" },
        ]}
        value={mode}
        onChange={setMode}
        fullWidth
        size="md"
      />
      {mode === "specified" ? (
        <>
          <div className={classes.two}>
            <Field label="Torque, or from" value={low} onChange={setLow} unit={unit} first />
            <Field label="to (a range)" value={high} onChange={setHigh} unit={unit} />
          </div>
          <Units units={torqueUnits} value={unit} onChange={setUnit} />
        </>
      ) : (
        <>
          <Field label="Share" value={share} onChange={setShare} unit="%" first />
          <Units units={["yield", "proof"]} value={of} onChange={setOf} />
          <p className="soft">Gasketed flanges: usually 40 to 60 % of yield. A maker’s value wins.</p>
        </>
      )}
      <Set disabled={!ready} />
    </form>
  );
}

function PassesEditor({ words, passes, onSet }: { words: Words; passes: number[]; onSet: (p: number[]) => void }) {
  const [text, setText] = useState(passes.join("-"));
  const parts = text.split(/[-–,;\s]+/).filter(Boolean).map(readNumber);
  const ok = parts.length > 0 && parts.every((p) => p !== undefined);
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        if (ok) onSet(parts as number[]);
      }}
    >
      <Choose options={words.presets.map((p) => ({ value: p.name, text: p.name, note: p.usual }))} value={passes.join("-")} onChoose={(name) => onSet(words.presets.find((p) => p.name === name)!.shares)} />
      <TextInput label="or your own, in percent" value={text} onChange={(e) => setText(e.currentTarget.value)} error={ok ? undefined : "Write shares like 30-60-100."} />
      <Set disabled={!ok} />
    </form>
  );
}

function OrderEditor({ words, input, onSet }: { words: Words; input: PlanInput; onSet: (c: Change) => void }) {
  const [start, setStart] = useState(String(input.start));
  const [onCentre, setOnCentre] = useState(input.onCentre);
  const s = readNumber(start);
  return (
    <div className={classes.form}>
      <Choose options={words.orders.map((o) => ({ value: o.name, text: o.words, note: o.note }))} value={input.order} onChoose={(order) => onSet({ order })} />
      <Field label="Start at bolt" value={start} onChange={setStart} />
      <Switch label="A bolt stands at top centre" checked={onCentre} onChange={(e) => setOnCentre(e.currentTarget.checked)} size="lg" />
      <Button onClick={() => s !== undefined && onSet({ start: Math.trunc(s), onCentre })} disabled={s === undefined}>
        Set
      </Button>
    </div>
  );
}
