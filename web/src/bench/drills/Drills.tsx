import { Button } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { DrillJudged, DrillKind, DrillTask } from "../../api/types";
import { InBar } from "../../app/Shell";
import { Panel } from "../../ui/Panel";
import { told, tr } from "../../words/words";
import { useTrier } from "../useTrial";
import { Click } from "./Click";
import { Convert } from "./Convert";
import classes from "./drills.module.css";
import { NextBolt } from "./NextBolt";

/** How many tasks are one go at a drill. */
const TASKS = 5;

const DRILLS: { kind: DrillKind; name: string; what: string }[] = [
  { kind: "which bolt next", name: tr("Which bolt next"), what: tr("The phone rang in the middle of a pass. Go on where it was left.") },
  { kind: "convert it", name: tr("Convert it"), what: tr("A chart says one unit, the tool another.") },
  { kind: "one click and stop", name: tr("One click and stop"), what: tr("Pull until it clicks, and stop at once.") },
];

/** Drills for hands and eyes: five tasks each, right or wrong with why. */
export function Drills() {
  const [kind, setKind] = useState<DrillKind>();
  useEffect(() => {
    document.title = tr("{tag} · Dynacor", { tag: tr("Drills") });
  }, []);
  return (
    <main className={classes.drills}>
      <InBar>
        <span className={classes.plate}>
          <Link to="/bench">{tr("Bench")}</Link>
          <b>{tr("Drills")}</b>
        </span>
      </InBar>
      <h1 className="visually-hidden">{tr("Drills")}</h1>
      {kind ? (
        <Go key={kind} kind={kind} onEnd={() => setKind(undefined)} />
      ) : (
        <ul className={classes.list}>
          {DRILLS.map((d) => (
            <li key={d.kind}>
              <button type="button" className={classes.drill} onClick={() => setKind(d.kind)} data-drill={d.kind}>
                <b>{d.name}</b>
                <span>{d.what}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}

/** A seed that nobody had before. */
const fresh = () => crypto.getRandomValues(new Uint32Array(1))[0]!;

/** One go at a drill: its tasks, one after the other. */
function Go({ kind, onEnd }: { kind: DrillKind; onEnd: () => void }) {
  const trier = useTrier();
  const [seed, setSeed] = useState(fresh);
  const [task, setTask] = useState<DrillTask>();
  const [judged, setJudged] = useState<DrillJudged>();
  const [came, setCame] = useState<boolean[]>([]);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    let here = true;
    void trier.ask<DrillTask>("task", { kind, seed }).then((a) => {
      if (!here) return;
      setTask(a.is);
      setFailed(a.is === undefined);
    });
    return () => {
      here = false;
    };
  }, [trier, kind, seed]);
  const answered = useRef(false); // a second press while it is judged is none
  async function answer(value: number) {
    if (answered.current) return;
    answered.current = true;
    const a = await trier.ask<DrillJudged>("judged", { kind, seed, answer: value });
    if (!a.is) {
      setFailed(true);
      return;
    }
    setJudged(a.is);
    setCame((c) => [...c, a.is!.holds]);
  }
  function next() {
    answered.current = false;
    setJudged(undefined);
    setTask(undefined);
    setFailed(false);
    setSeed(fresh());
  }
  const over = judged !== undefined && came.length >= TASKS;
  if (failed)
    return (
      <Panel kind="stop" title={tr("The model has stopped")}>
        <Button onClick={next}>{tr("Begin it anew")}</Button>
      </Panel>
    );
  if (!task) return <p className="soft">{tr("The model is coming.")}</p>;
  return (
    <section className={classes.go} data-task={kind} data-seed={task.seed}>
      <p className={classes.count}>
        {tr("{n} of {all}", { n: Math.min(came.length + (judged ? 0 : 1), TASKS), all: TASKS })}
        <span aria-hidden>
          {Array.from({ length: TASKS }, (_, i) => (
            <i key={i} data-came={came[i] === undefined ? undefined : came[i] ? "right" : "wrong"}>
              {came[i] === undefined ? "" : came[i] ? "✓" : "✗"}
            </i>
          ))}
        </span>
      </p>
      {task.next && <NextBolt key={seed} task={task.next} judged={judged} onAnswer={(v) => void answer(v)} />}
      {task.convert && <Convert key={seed} task={task.convert} judged={judged} onAnswer={(v) => void answer(v)} />}
      {task.click && <Click key={seed} task={task.click} judged={judged} onAnswer={(v) => void answer(v)} />}
      {judged && (
        <div className={classes.why} data-judged={judged.holds ? "right" : "wrong"} role="status">
          <b>{judged.holds ? tr("Right.") : tr("Wrong.")}</b> <span>{told(judged.why)}</span>
          {over ? (
            <>
              <span>{tr("{right} of {all} right.", { right: came.filter(Boolean).length, all: TASKS })}</span>
              <Button color="now" size="lg" onClick={onEnd} autoFocus>
                {tr("To the drills")}
              </Button>
            </>
          ) : (
            <Button color="now" size="lg" onClick={next} autoFocus data-next>
              {tr("Next")}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
