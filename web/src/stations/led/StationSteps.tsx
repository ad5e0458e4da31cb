import { Button } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { JobRun, JobStep, LedJoint } from "../../api/types";
import { useOutboxState } from "../../app/context";
import { Figure } from "../../drawing/Figure";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusals } from "../tighten/Refusals";
import { boltsOf, keyOf } from "./bolts";
import classes from "./led.module.css";
import { filled } from "./words";
import { Stopped } from "./Stopped";
import { StepCard } from "./StepCard";

interface StationStepsProps {
  joint: LedJoint;
  run: JobRun;
  station: number;
}

const onward: Record<number, string> = { 2: "Tool up", 3: "Tighten", 4: "Prove", 5: "Sign" };

/** The steps of a station beside the drawing: what is done, what is open, what comes. */
export function StationSteps({ joint, run, station }: StationStepsProps) {
  const navigate = useNavigate();
  const { acts } = useOutboxState();
  const may = [useMay("fitter"), useMay("inspector")].some(Boolean) && run.signatures.length === 0;
  const [chosen, setChosen] = useState<string>();
  const [readings, setReadings] = useState<Record<string, string[]>>({});
  const steps = run.steps.filter((s) => s.station === station && s.does !== "sign");
  const sent = new Set(acts.filter((a) => a.run === run.id && a.entry.kind === "step").map((a) => a.entry.content.step));
  const open = steps.filter((s) => s.offered && !sent.has(s.id));
  const now = open.find((s) => s.id === chosen) ?? open[0];
  const typed = now ? filled(readings[now.id], now.spots.length) : [];
  const setTyped = (v: string[]) => now && setReadings({ ...readings, [now.id]: v });
  const placed = now && now.spots.some((p) => p.x !== 0 || p.y !== 0) ? now.spots : [];
  const done = steps.every((s) => s.done);
  const at = run.stage === "sign" || run.stage === "signed" ? 5 : joint.station;
  return (
    <div className={classes.steps}>
      <div className={classes.face}>
        {run.figure.bolts.length > 0 && <Figure figure={run.figure} bolts={boltsOf(run)} title={`${joint.job.recipe.title}, as it stands`} marked={may ? now?.sample.map((bolt) => keyOf(run.groups, { group: now.sampleOf, bolt })) : undefined} />}
        {now && may &&
          placed.map((p, i) => (
            <label key={p.text} className={classes.spot} style={{ left: `${50 + (p.x / 228) * 100}%`, top: `${50 + (p.y / 232) * 100}%` }}>
              <span>{p.text}</span>
              <input className="mono" inputMode="decimal" autoComplete="off" name={`reading${i + 1}`} aria-label={`${p.text}, ${now.unit}`} value={typed[i] ?? ""} onChange={(e) => setTyped(typed.with(i, e.currentTarget.value))} />
            </label>
          ))}
      </div>
      <div className={classes.stepsRight}>
        <Refusals acts={acts} run={run} />
        <Stopped joint={joint} run={run} />
        {now && may && !run.paused && <StepCard key={now.id} joint={joint} run={run} step={now} typed={typed} onTyped={setTyped} placed={placed.length > 0} />}
        {done && at > station && (
          <Panel kind="held">
            <div className={classes.onward}>
              <b>All of it is done.</b>
              <Button color="held" size="lg" onClick={() => void navigate(`/joint/${joint.id}/${at}`)}>
                {run.stage === "signed" ? "The record" : onward[at]}
              </Button>
            </div>
          </Panel>
        )}
        <ol className={classes.list}>
          {steps.map((s) => (
            <li key={s.id}>
              <Line step={s} now={s === now} waiting={sent.has(s.id)} onOpen={s.offered && s !== now ? () => setChosen(s.id) : undefined} />
            </li>
          ))}
        </ol>
      </div>
    </div>
  );
}

/** A step in one line: what, and who did it when. */
function Line({ step: s, now, waiting, onOpen }: { step: JobStep; now: boolean; waiting: boolean; onOpen?: () => void }) {
  const state = s.outside ? "outside" : s.done ? "done" : now ? "now" : s.offered ? "open" : "later";
  return (
    <button type="button" className={classes.line} data-state={state} data-step={s.id} disabled={!onOpen} onClick={onOpen}>
      <StepMark state={state} />
      <span>
        <span className={classes.lineText}>{s.text}</span>
        {s.readings && <span className="mono"> {s.readings}</span>}
        {s.marks.length > 0 && <span className={classes.marks}>{s.marks.join("; ")}</span>}
        {s.outside && (
          <span className={classes.outside}>
            {s.outside}. Because: {s.reason}
          </span>
        )}
        {s.tries.length > 1 && (
          <span className={classes.tries}>
            {s.tries.map((t) => (
              <span key={t.at + t.readings} data-in={!t.outside || undefined}>
                {t.readings}
              </span>
            ))}
          </span>
        )}
      </span>
      <span className="soft">{waiting ? "on its way" : s.doneBy && s.done ? `${s.doneBy}, ${dateTime(s.doneAt!)}` : s.by ? `for a ${s.by}` : onOpen ? "open" : ""}</span>
    </button>
  );
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
