import { Button } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { http, problemOf, take } from "../../api/client";
import type { DrillGiven, DrillJudged, DrillKind, DrillMaterial, DrillProgress, DrillTask, Problem } from "../../api/types";
import { day } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { told, tr } from "../../words/words";
import type { Trier } from "../trier";
import { useTrier } from "../useTrial";
import { Click } from "./Click";
import { Convert } from "./Convert";
import classes from "./drills.module.css";
import { nameOf } from "./kinds";
import { NextBolt } from "./NextBolt";
import { PartsAlong } from "./PartsAlong";
import { Press } from "./Press";
import { ReadIt } from "./ReadIt";
import { SetIt } from "./SetIt";
import { WrongHere } from "./WrongHere";

/** A go: what its tasks are drawn from. Without an identity it is not kept: the server was not reached. */
interface Begun {
  id?: string;
  seed: number;
  material: DrillMaterial;
}

/** What a task is asked of the core by. */
export interface Of {
  kind: DrillKind;
  seed: number;
  material: DrillMaterial;
}

export interface TaskProps<T> {
  task: T;
  of: Of;
  trier: Trier;
  judged?: DrillJudged;
  onAnswer: (given: DrillGiven) => void;
}

interface GoProps {
  kind: DrillKind;
  /** The joint that asks for the drill. */
  joint?: string;
  onEnd: () => void;
}

/** One go at a drill: its tasks, one after the other, then how it went. */
export function Go({ kind, joint, onEnd }: GoProps) {
  const trier = useTrier();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [begun, setBegun] = useState<Begun>();
  const [at, setAt] = useState(0);
  const [task, setTask] = useState<DrillTask>();
  const [judged, setJudged] = useState<DrillJudged>();
  const [came, setCame] = useState<boolean[]>([]);
  const [went, setWent] = useState<DrillProgress>();
  const [failed, setFailed] = useState<{ problem?: Problem }>();
  const given = useRef<DrillGiven[]>([]);
  useEffect(() => {
    let here = true;
    void take(http.POST("/api/drills/goes", { body: { kind } }))
      .catch((e: unknown) => {
        const problem = problemOf(e);
        if (problem) setFailed({ problem });
        const seed = crypto.getRandomValues(new Uint32Array(1))[0]!;
        return problem ? undefined : { seed, material: { tools: [], stacks: [] } };
      })
      .then((b) => here && setBegun(b));
    return () => {
      here = false;
    };
  }, [kind]);
  const of = begun && { kind, seed: begun.seed + at, material: begun.material };
  useEffect(() => {
    if (!begun) return;
    let here = true;
    void trier.ask<DrillTask>("task", { kind, seed: begun.seed + at, material: begun.material }).then((a) => {
      if (!here) return;
      setTask(a.is);
      setFailed(a.is ? undefined : { problem: a.problem });
    });
    return () => {
      here = false;
    };
  }, [trier, kind, begun, at]);
  const answered = useRef(false); // a second press while it is judged is none
  async function answer(what: DrillGiven) {
    if (answered.current || !of) return;
    answered.current = true;
    const a = await trier.ask<DrillJudged>("judged", { ...of, given: what });
    if (!a.is) {
      setFailed({ problem: a.problem });
      return;
    }
    given.current = [...given.current, what];
    setJudged(a.is);
    setCame((c) => [...c, a.is!.holds]);
    if (given.current.length === task?.tasks && begun?.id) void keep(begun.id);
  }
  /** The server judges the whole go once more, and keeps how it went. */
  async function keep(go: string) {
    setFailed(undefined);
    try {
      setWent(await take(http.PUT("/api/drills/goes/{go}", { params: { path: { go } }, body: { answers: given.current } })));
      void client.invalidateQueries({ queryKey: ["drills"] });
      void client.invalidateQueries({ queryKey: ["joint"] });
    } catch (e) {
      setFailed({ problem: problemOf(e) });
    }
  }
  function next() {
    answered.current = false;
    setJudged(undefined);
    setTask(undefined);
    setFailed(undefined);
    setAt((n) => n + 1);
  }
  if (failed && !judged)
    return (
      <Panel kind="stop" title={failed.problem ? tr("This drill cannot be done here") : tr("The model has stopped")}>
        <Refusal problem={failed.problem} />
        <Button onClick={onEnd} mt={10}>
          {tr("To the drills")}
        </Button>
      </Panel>
    );
  if (!begun || !task || !of) return <p className="soft">{tr("The model is coming.")}</p>;
  const over = judged !== undefined && came.length >= task.tasks;
  const props = { of, trier, judged, onAnswer: (v: DrillGiven) => void answer(v) };
  return (
    <section className={classes.go} data-task={kind} data-seed={task.seed} data-kept={begun.id !== undefined || undefined}>
      <p className={classes.count}>
        <b>{nameOf(kind)}</b>
        {tr("{n} of {all}", { n: Math.min(at + 1, task.tasks), all: task.tasks })}
        <span aria-hidden>
          {Array.from({ length: task.tasks }, (_, i) => (
            <i key={i} data-came={came[i] === undefined ? undefined : came[i] ? "right" : "wrong"}>
              {came[i] === undefined ? "" : came[i] ? "✓" : "✗"}
            </i>
          ))}
        </span>
        {!begun.id && <span>{tr("The server is not reached: this go is not kept.")}</span>}
      </p>
      {task.face && kind === "set it" && <SetIt key={at} task={task.face} {...props} />}
      {task.face && kind === "read it" && <ReadIt key={at} task={task.face} {...props} />}
      {task.next && <NextBolt key={at} task={task.next} {...props} />}
      {task.parts && <PartsAlong key={at} task={task.parts} {...props} />}
      {task.press && <Press key={at} task={task.press} {...props} />}
      {task.wrong && <WrongHere key={at} task={task.wrong} {...props} />}
      {task.convert && <Convert key={at} task={task.convert} {...props} />}
      {task.click && <Click key={at} task={task.click} {...props} />}
      {judged && (
        <div className={classes.why} data-judged={judged.holds ? "right" : "wrong"} role="status">
          <p>
            <b>{judged.holds ? tr("Right.") : tr("Wrong.")}</b> <span>{told(judged.why)}</span>
          </p>
          {over ? (
            <>
              <p data-went={went?.due}>
                <b>{tr("{right} of {all} right.", { right: came.filter(Boolean).length, all: task.tasks })}</b>{" "}
                {went && <Result of={went} />}
                {failed && <Refusal problem={failed.problem} error={failed.problem ? undefined : true} />}
                {failed && !failed.problem && <Button onClick={() => void keep(begun.id!)}>{tr("Try again")}</Button>}
              </p>
              {joint && went?.counts ? (
                <Button color="now" size="lg" onClick={() => void navigate(`/joint/${joint}/3`)} autoFocus>
                  {tr("Back to the joint")}
                </Button>
              ) : (
                <Button color="now" size="lg" onClick={onEnd} autoFocus>
                  {tr("To the drills")}
                </Button>
              )}
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

/** Whether it was passed, and when it is due again. */
function Result({ of: p }: { of: DrillProgress }) {
  const last = p.went.at(-1);
  return (
    <>
      {last && (last.passed ? tr("Passed.") : tr("Not passed: {least} of {all} are asked for.", { least: last.least, all: last.of }))}{" "}
      {p.due && tr("Do it again on {day}.", { day: day(p.due) })}{" "}
      {p.asked && p.until && tr("It counts until {day}.", { day: day(p.until) })}
    </>
  );
}
