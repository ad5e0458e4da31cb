import { Button, Group, Text } from "@mantine/core";
import { useMediaQuery } from "@mantine/hooks";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { Joint, Run, Step } from "../../api/types";
import { useActs } from "../../app/context";
import { boltKey, Figure } from "../../drawing/Figure";
import { type PartState, Stack } from "../../drawing/Stack";
import { LotsToday } from "../../library/LotCheck";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { boltsOf } from "../bolts";
import { FirstDrill, useLacks } from "../FirstDrill";
import { stations } from "../Stud";
import { AnotherLubricant } from "../tighten/AnotherLubricant";
import { Refusals } from "../tighten/Refusals";
import { Signs } from "../tighten/Signs";
import { article, filled } from "../words";
import { Lean } from "./Lean";
import { Comes } from "./Limit";
import { ReadingField } from "./ReadingField";
import { onDrawing } from "./Readings";
import { sentOf } from "./sent";
import { StepCard } from "./StepCard";
import classes from "./steps.module.css";
import { Stopped } from "./Stopped";
import { ticked } from "./Ticks";
import { Told } from "../../ui/Told";
import { told, tr } from "../../words/words";

interface StationStepsProps {
  joint: Joint;
  run: Run;
  station: number;
}

/** Readings typed on the drawing need room beside its bolts; without it they stand in a list. */
const ROOM = "(min-width: 761px)";

/** The steps of a station beside the drawing: what is done, what is open, what comes. */
export function StationSteps({ joint, run, station }: StationStepsProps) {
  const navigate = useNavigate();
  const acts = useActs(joint);
  const room = useMediaQuery(ROOM, true, { getInitialValueInEffect: false });
  const may = useMay("fitter", "inspector") && run.standing !== "signed";
  const inspector = useMay("inspector"); // who checks, needs no drill
  const drilled = !useLacks(joint, run) || inspector;
  const [chosen, setChosen] = useState<string>();
  const [readings, setReadings] = useState<Record<string, string[]>>({});
  const steps = run.steps.filter((s) => s.station === station && s.does !== "sign");
  const under = (s: Step) => {
    const sent = sentOf(acts, run.id, s.id);
    return s.ticks.length > 0 ? false : sent.whole;
  };
  const open = steps.filter((s) => s.offered && !under(s));
  const now = open.find((s) => s.id === chosen) ?? open[0];
  const typed = now ? filled(readings[now.id], now.spots.length) : [];
  const setTyped = (v: string[]) => now && setReadings({ ...readings, [now.id]: v });
  const reads = now !== undefined && (now.now === "whole" || now.ticks.length === 0);
  const spots = reads ? now.spots.flatMap((p, i) => (onDrawing(now, i) ? [{ ...p, i }] : [])) : [];
  // Beside the parts along their axis there is no drawing to type on.
  const onStack = run.stack && now && placing(now);
  const placed = room && !onStack ? spots : [];
  const done = steps.every((s) => s.done);
  const at = run.standing === "sign" || run.standing === "signed" ? 5 : joint.station;
  const lean = reads && now.reads.some((r) => r.form === "run-out" || r.form === "gap plane");
  const marked = may && now ? now.sample.map((bolt) => boltKey(now.sampleOf, bolt)) : undefined;
  const going = now && may && !run.paused && run.standing !== "stopped";
  const card =
    going &&
    (drilled ? (
      <StepCard key={now.id} joint={joint} run={run} step={now} drawn={{ typed, onTyped: setTyped, placed: placed.length > 0 }} />
    ) : (
      <FirstDrill joint={joint} />
    ));
  const list = (
    <ol className={`lines ${classes.list}`}>
      {steps.map((s) => (
        <li key={s.id}>
          <Line step={s} now={s === now} waiting={under(s)} onOpen={s.offered && s !== now ? () => setChosen(s.id) : undefined} />
        </li>
      ))}
    </ol>
  );
  const finished = done && at > station && (
    <Panel kind="held">
      <Group justify="space-between" fz={19}>
        <b>{tr("All of it is done.")}</b>
        <Button color="held" size="lg" mih={72} miw={160} onClick={() => void navigate(`/joint/${joint.id}/${at}`)}>
          {run.standing === "signed" ? tr("The record") : stations[at - 1]}
        </Button>
      </Group>
    </Panel>
  );
  if (onStack) {
    return (
      <div className={classes.withStack}>
        <StackOf joint={joint} run={run} now={now} />
        <div className={classes.stepsRight}>
          <Refusals acts={acts} run={run} />
          <Stopped joint={joint} run={run} />
          {card}
        </div>
        <div className={classes.stepsRight}>
          {list}
          <AnotherLubricant joint={joint} run={run} />
        </div>
      </div>
    );
  }
  if (now?.id === "kit" && card) {
    return (
      <div className={classes.withKit}>
        <div className={classes.stepsRight}>
          <Refusals acts={acts} run={run} />
          <Stopped joint={joint} run={run} />
          {card}
        </div>
        <div className={classes.stepsRight}>{list}</div>
      </div>
    );
  }
  return (
    <div className={classes.steps}>
      <div className={classes.left}>
        <div className={classes.face}>
          {run.figure.bolts.length > 0 && (
            <Figure
              figure={run.figure}
              bolts={boltsOf(run)}
              title={tr("{title}, as it stands", { title: told(joint.draft.recipe.title) })}
              marked={marked}
              carries={now?.at ? run.carries : undefined}
              back={lean}
            >
              {!room &&
                spots.map((p) =>
                  typed[p.i] ? (
                    <text key={p.text} x={p.x} y={p.y} fontSize="9" fontWeight="700" textAnchor="middle" fill="var(--plan)">
                      {typed[p.i]}
                    </text>
                  ) : (
                    <circle key={p.text} cx={p.x} cy={p.y} r="5" fill="var(--panel)" stroke="var(--plan)" strokeWidth="2" />
                  ),
                )}
              {now && reads && <Lean run={run} step={now} typed={typed} />}
            </Figure>
          )}
          {going &&
            placed.map((p) => (
              <div key={p.text} className={classes.spot} style={{ left: `${50 + (p.x / 228) * 100}%`, top: `${50 + (p.y / 232) * 100}%` }}>
                <ReadingField
                  label={told(p.text)}
                  name={`reading${p.i + 1}`}
                  value={typed[p.i] ?? ""}
                  onChange={(v) => setTyped(typed.with(p.i, v))}
                />
              </div>
            ))}
        </div>
        <Signs run={run} />
        {station === 4 && <Before steps={run.steps.filter((s) => s.station < 4)} />}
      </div>
      <div className={classes.stepsRight}>
        <Refusals acts={acts} run={run} />
        <Stopped joint={joint} run={run} />
        {now?.does === "lubricate" && <LotsToday names={run.groups.map((g) => g.lubrication)} />}
        {card}
        {finished}
        {list}
        <AnotherLubricant joint={joint} run={run} />
      </div>
    </div>
  );
}

/** Whether a step is about the parts: they are placed, or held against the paper. */
export const placing = (s: Step) => s.does === "place" || s.does === "match";

/** The parts along their axis, as far as they are in. */
export function StackOf({ joint, run, now }: { joint: Joint; run: Run; now: Step }) {
  const acts = useActs(joint);
  if (!run.stack) return null;
  return (
    <section className={classes.stackFace} aria-label={tr("The parts along their axis")} data-stack={run.stack.up ? "up" : "along"}>
      <p className="soft">
        <b>
          {run.stack.up
            ? tr("From {first} up to {last}", { first: told(run.stack.first), last: told(run.stack.last) })
            : tr("Along its axis, from {first} to {last}", { first: told(run.stack.first), last: told(run.stack.last) })}
        </b>
      </p>
      <Stack stack={run.stack} title={tr("Parts")} states={statesOf(run, acts, now)} />
    </section>
  );
}

/** Which parts are in, which one is in hand, which comes then. */
function statesOf(run: Run, acts: Parameters<typeof sentOf>[0], now: Step) {
  const out = new Map<string, PartState>();
  let found = 0;
  for (const s of run.steps) {
    if (s.does !== "place") continue;
    for (const t of ticked(s, sentOf(acts, run.id, s.id).items)) {
      if (!t.part) continue;
      if (t.done) out.set(t.part, "in");
      else {
        const hand = found === 0 && s.id === now.id && t.free;
        out.set(t.part, hand ? "now" : found <= 1 && s.id === now.id ? "next" : "later");
        found++;
      }
    }
  }
  return out;
}

/** What the proof stands on: the rounds, and what was measured before them. */
function Before({ steps }: { steps: Step[] }) {
  const rounds = steps.flatMap((s) => s.rounds);
  const measured = steps.filter((s) => s.readings).reverse();
  if (rounds.length + measured.length === 0) return null;
  return (
    <section className={classes.before} aria-label={tr("What it stands on")}>
      {rounds.map((text) => (
        <p key={text}>{told(text)}</p>
      ))}
      {measured.map((s) => (
        <p key={s.id}>
          <span className="soft">
            <Told text={s.text} />
          </span>{" "}
          <span className="mono">{told(s.readings)}</span>
          {s.comes && "; "}
          <Comes step={s} />
        </p>
      ))}
    </section>
  );
}

/** A step in one line: what, and who did it when. */
function Line({ step: s, now, waiting, onOpen }: { step: Step; now: boolean; waiting: boolean; onOpen?: () => void }) {
  const state = s.outside ? "outside" : s.done ? "done" : now ? "now" : s.offered ? "open" : "later";
  return (
    <button type="button" className={`bare ${classes.line}`} data-state={state} data-step={s.id} disabled={!onOpen} onClick={onOpen}>
      <StepMark state={state} />
      <span>
        <span className={classes.lineText}>
          <Told text={s.text} />
        </span>
        {s.readings && <span className="mono"> {told(s.readings)}</span>}
        {s.ticks.length > 0 && !s.done && s.count > 0 && (
          <span className="mono soft"> {tr("{done} of {all}", { done: s.ticks.filter((t) => t.done).length, all: s.ticks.length })}</span>
        )}
        {s.must && !s.done && <span className={classes.must}> {tr("must")}</span>}
        {s.marks.length > 0 && <div className="fine">{markWords(s.marks)}</div>}
        {s.outside && (
          <Text span display="block" c="stop">
            {tr("{outside}. Because: {reason}", { outside: told(s.outside), reason: s.reason })}
          </Text>
        )}
        {s.tries.length > 1 && (
          <span className={classes.tries}>
            {s.tries.map((t) => (
              <span key={t.at + t.readings} data-in={!t.outside || undefined}>
                {told(t.readings)}
              </span>
            ))}
          </span>
        )}
      </span>
      <span className="soft">
        {waiting
          ? tr("on its way")
          : s.doneBy && s.done
            ? `${s.doneBy}, ${dateTime(s.doneAt!)}`
            : s.now === "release"
              ? tr("waits for {release}", { release: article(s.release) })
              : s.by
                ? tr("for {by}", { by: article(s.by) })
                : onOpen
                  ? tr("open")
                  : ""}
      </span>
    </button>
  );
}

/** What was compared: those that say something, and how many were seen. */
function markWords(marks: string[]) {
  const said = marks.filter((m) => !m.endsWith(": seen"));
  const seen = marks.length - said.length;
  return [...said.map((m) => told(m)), ...(seen > 0 ? [tr("{count} marks seen", { count: seen })] : [])].join("; ");
}

/** Done: a tick; outside its limit: a bar; open: a ring. */
function StepMark({ state }: { state: string }) {
  return (
    <svg viewBox="-10 -10 20 20" width="20" height="20" aria-hidden="true" className={classes.mark}>
      {state === "done" && <path d="M-7 0 L-2 5 L8 -6" />}
      {state === "outside" && <path d="M-7 -7 L7 7 M7 -7 L-7 7" />}
      {(state === "open" || state === "now") && <circle r={state === "now" ? 7 : 5} />}
    </svg>
  );
}
