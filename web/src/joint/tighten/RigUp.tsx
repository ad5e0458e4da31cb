import { SimpleGrid, Text } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { http, take } from "../../api/client";
import type { Act, Group, Joint, Run, StageTool } from "../../api/types";
import { useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { DriveSide } from "../../drawing/hydraulics/DriveSide";
import { FaceView } from "../../drawing/faces/Face";
import { Act as Main } from "../../ui/Act";
import { number, readNumber, torque } from "../../ui/format";
import { Offered, useSent } from "../../ui/Offered";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { Field } from "../layout/editors";
import { ofHand } from "../bolts";
import { Num } from "../numbers/Numbers";
import classes from "./tighten.module.css";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

interface RigUpProps {
  joint: Joint;
  run: Run;
  next: Act;
  group: Group;
  tool: StageTool;
}

const TIMES = [tr("The gauge reads, first time"), tr("The gauge reads, second time")];

/**
 * A hydraulic wrench made ready before a stage, led step by step: off the nut, from below, read twice. What is begun and
 * left is begun anew: nobody knows then what the regulator stands at.
 */
export function RigUp({ joint, run, next, group, tool }: RigUpProps) {
  const record = useRecord(joint.id, run.id);
  const steps = run.rigUp ?? [];
  const reads = steps.filter((s) => s.read);
  const [at, setAt] = useState(0);
  const [typed, setTyped] = useState<string[]>([]);
  const sent = useSent(typed);
  const box = useRef<HTMLFormElement>(null);
  const step = steps[at];
  const k = step ? reads.indexOf(step) : -1;
  const readings = typed.slice(0, k + 1).map((t) => readNumber(t));
  const known = readings.filter((v) => v !== undefined);
  const full = k >= 0 && known.length === k + 1;
  const verdict = useQuery({
    queryKey: ["rig", run.id, group.name, next.share, next.hand, known],
    queryFn: () =>
      take(
        http.POST("/api/runs/{run}/rig", {
          params: { path: { run: run.id } },
          body: { group: group.name, share: next.share, hand: next.hand, readings: known },
        }),
      ).then(() => true),
    enabled: full,
    retry: false,
  });
  const off = full && verdict.isError;
  const ready = k < 0 || (full && verdict.data === true);
  useEffect(() => {
    if (k >= 0) box.current?.querySelector("input")?.focus();
  }, [k]);

  function go() {
    if (!ready) return;
    if (at < steps.length - 1) setAt(at + 1);
    else
      record(
        {
          kind: "setting",
          group: group.name,
          share: next.share,
          rig: steps.map((s) => s.id),
          readings: known,
          ...(next.hand ? { hand: next.hand } : {}),
        },
        sent.ids.length > 0 ? { from: sent.ids } : {},
      );
  }
  function anew() {
    setTyped([]);
    sent.clear();
    setAt(steps.findIndex((s) => s.id === "down"));
  }
  useKeys(k < 0 ? { s: go } : {});
  if (!step) return null;
  return (
    <Panel
      kind="mind"
      title={
        next.stages > 1
          ? tr("Rig up for stage {stage} of {stages}, {share} %", { stage: next.stage, stages: next.stages, share: number(next.share) })
          : tr("Rig up for the {group}", { group: told(group.name) })
      }
      aside={tr("{step} of {steps}", { step: at + 1, steps: steps.length })}
    >
      <div className={classes.setWords} data-setting={`${number(tool.setting.value)} ${tool.setting.unit}`} data-rigs={step.id}>
        <Say
          of="{tools} to {num}, for {lands}"
          with={{
            tools: <b>{tool.tools[0]}</b>,
            num: (
              <Num of={ofHand(group.name, next.hand)} number={`setting/${tool.stage}`}>
                <b className="mono">
                  {number(tool.setting.value)} {tool.setting.unit}
                </b>
              </Num>
            ),
            lands: (
              <Num of={ofHand(group.name, next.hand)} number={`lands/${tool.stage}`}>
                {torque(tool.lands)}
                {" N·m"}
              </Num>
            ),
          }}
        />
      </div>
      <ol className={classes.rig}>
        {steps.map((s, i) => (
          <li key={s.id} data-state={i < at ? "done" : i === at ? "now" : "later"} aria-current={i === at ? "step" : undefined}>
            <span aria-hidden="true">{i < at ? "✓" : i + 1}</span>
            <span>
              {told(s.text)}
              {i < at && s.read && (
                <b className="mono">
                  {" "}
                  {typed[reads.indexOf(s)]} {tool.setting.unit}
                </b>
              )}
              {i === at && s.why && <Text span c="dimmed">{` ${told(s.why)}`}</Text>}
            </span>
          </li>
        ))}
      </ol>
      {k >= 0 ? (
        <SimpleGrid cols={2} spacing={14} className={classes.rigRead}>
          <FaceView face={tool.face} words={false} />
          <form
            ref={box}
            onSubmit={(e) => {
              e.preventDefault();
              go();
            }}
          >
            <Field
              label={TIMES[k]!}
              name={`rig${k + 1}`}
              value={typed[k] ?? ""}
              onChange={(v) => setTyped(typed.slice(0, k).concat(v))}
              unit={tool.setting.unit}
            />
            <Offered
              unit={typed[k]?.trim() ? undefined : tool.setting.unit}
              used={sent.ids}
              onTake={(r) => {
                sent.put(k, r);
                setTyped(typed.slice(0, k).concat(String(r.value)));
              }}
            />
            {off ? <Refusal error={verdict.error} /> : <p className="soft">{tr("Within 1 % of it, both times, and both alike.")}</p>}
          </form>
        </SimpleGrid>
      ) : (
        at < 2 && <DriveSide to={run.undoes ? "loosen" : "tighten"} />
      )}
      {off ? (
        <Main act={tr("Right down, and up again")} kind="stop" onClick={anew} data-act="rig-anew" />
      ) : (
        <Main
          act={k < 0 ? tr("Done") : at < steps.length - 1 ? tr("It reads that") : tr("Read twice: it is set")}
          hint={k < 0 ? tr("key S; the pedal does not") : ready ? tr("Enter") : tr("read it off the gauge")}
          kind="mind"
          disabled={!ready}
          onClick={go}
          data-act="rig"
        />
      )}
      <p className="fine">
        {tr("Hands off arm, hose and back-up while the pump runs. A hose changed, the pump stopped: all of it again.")}
      </p>
    </Panel>
  );
}
