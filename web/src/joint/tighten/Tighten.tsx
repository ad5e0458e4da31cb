import { Button, Group as Row, SegmentedControl, Text } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Ahead, ahead } from "../../api/ahead";
import { type Shown as ShownJoint, useMay } from "../../api/queries";
import type { Group, Run, StageTool } from "../../api/types";
import { useActs } from "../../app/context";
import { useAwake } from "../../app/awake";
import { useKeys } from "../../app/keys";
import { useVoice } from "../../app/voice";
import { Figure } from "../../drawing/Figure";
import { Act } from "../../ui/Act";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { StepPapers } from "../../ui/Papers";
import { boltsOf, handTools, keyOf, orderOf } from "../bolts";
import { FirstDrill, useLacks } from "../FirstDrill";
import { Nothing } from "../Nothing";
import { StationSteps } from "../steps/StationSteps";
import { Stopped } from "../steps/Stopped";
import { Pedal, useFar } from "./Far";
import { Hands, Together } from "./Hands";
import { Linked } from "./Linked";
import { Pull } from "./Pull";
import { Refusals } from "./Refusals";
import { Signs } from "./Signs";
import { Tape } from "./Tape";
import classes from "./tighten.module.css";
import { aloud, told, tr } from "../../words/words";

/** Station three: bolt by bolt, and the steps between. */
export function Tighten({ joint, run }: { joint: ShownJoint; run: Run }) {
  const acts = useActs(joint);
  const sending = acts.some((a) => a.run === run.id && !a.problem && a.entry.content.kind === "tooling");
  if (run.standing === "lay out")
    return <Nothing joint={joint} what={tr("The steps before the first bolt are still open.")} station={1} act={tr("Prepare")} />;
  if (run.standing === "tool up" && !sending) return <Nothing joint={joint} what={toolWords(run)} station={2} act={tr("Tool up")} />;
  const between = run.next === undefined && run.steps.some((s) => s.station === 3 && s.offered && !s.group);
  if (between && run.standing === "tighten" && !run.paused) return <StationSteps joint={joint} run={run} station={3} />;
  return <Work joint={joint} run={run} />;
}

/** What has to be seen to at Tool up first. */
function toolWords(run: Run) {
  const step = run.steps.find((s) => s.station === 2 && s.offered);
  return step ? tr("First, at Tool up: {step}.", { step: told(step.text) }) : tr("No tool is chosen for what comes now.");
}

function Work({ joint, run }: { joint: ShownJoint; run: Run }) {
  const acts = useActs(joint);
  const fitter = useMay("fitter");
  const [labels, setLabels] = useState("position");
  const [taking, setTaking] = useState<number>();
  const path: Ahead = joint.kept?.gap ? { after: [], sent: [], held: true } : ahead(run, acts);
  // Whoever takes a tool over from another is shown its bolt, until it is in their hand.
  const over = run.hands?.find((h) => h.number === taking && h.open && !h.mine)?.act;
  const shown = over ? { ...path, next: over, after: [], held: false } : path;
  const { next } = shown;
  const refused = acts.find((a) => a.run === run.id && a.problem)?.problem;
  const voice = useVoice(
    refused ? [told(refused.detail), told(refused.way)].filter(Boolean).join(" ") : next?.spoken && aloud(next.spoken),
  );
  const far = useFar();
  useAwake(fitter && next !== undefined && !run.paused);
  useKeys({ ...(voice.can && fitter ? { v: voice.turn } : {}), ...(fitter ? { a: far.turn } : {}) });
  const bolts = boltsOf(run, labels === "order" ? orderOf(run.groups) : undefined);
  for (const { act, moved } of shown.sent) bolts.set(keyOf(act), { ...bolts.get(keyOf(act)), ...(moved ? act.moved : act.after) });
  for (const [key, b] of bolts) bolts.set(key, { ...b, current: next ? (b.level ?? 0) >= next.share / 100 : true });
  const group = next && run.groups.find((g) => g.name === next.group);
  const tool = next && group && handTools(group, next.hand)?.[Math.max(0, next.stage - 1)];
  const others = run.hands?.filter((h) => h.open && (next ? h.bolt !== keyOf(next) : !h.mine)).flatMap((h) => h.bolt ?? []);
  const waiting = acts.filter((a) => a.run === run.id && !a.problem && !run.tape.some((l) => l.id === a.entry.id));
  return (
    <div className={classes.tighten} data-far={far.on || undefined}>
      <section className={classes.left} aria-label={tr("The joint")}>
        <Row component="header" justify="space-between" c="dimmed" mih={44} visibleFrom="sm">
          <b>{run.figure.clock ? tr("Nut side, 12 o’clock at the top") : tr("Seen from the nut side")}</b>
          {run.figure.bolts.length > 2 && (
            <SegmentedControl
              size="sm"
              value={labels}
              onChange={setLabels}
              data={[
                { value: "position", label: tr("stamped number") },
                { value: "order", label: tr("turn order") },
              ]}
            />
          )}
        </Row>
        <div className={classes.drawing}>
          <Figure
            figure={run.figure}
            title={next ? tr("{next} is next", { next: told(next.words) }) : tr("No bolt is next")}
            bolts={bolts}
            next={next && keyOf(next)}
            then={shown.after[0] && keyOf(shown.after[0])}
            group={next?.owner}
            carries={run.carries}
            others={others}
          />
          {next && group && run.figure.clock && <Centre shown={shown} tool={tool} group={group} />}
        </div>
        <Row gap={14} wrap="nowrap" justify="space-between" className={classes.signs}>
          <Signs run={run} />
          {fitter && (
            <Button
              variant={far.on ? "filled" : "default"}
              color="plan"
              onClick={(e) => {
                far.turn();
                e.currentTarget.blur();
              }}
              aria-pressed={far.on}
              data-far-turn
              miw={140}
              visibleFrom="sm"
            >
              {tr("Arm’s length")} <kbd>A</kbd>
            </Button>
          )}
          {fitter && far.on && <Pedal />}
          {voice.can && fitter && (
            <Button
              variant={voice.on ? "filled" : "default"}
              color="plan"
              onClick={(e) => {
                voice.turn();
                e.currentTarget.blur(); // the space bar is the bolt's again
              }}
              aria-pressed={voice.on}
              data-voice
              miw={130}
            >
              {voice.on ? tr("Spoken") : tr("Say it aloud")} <kbd>V</kbd>
            </Button>
          )}
        </Row>
      </section>
      <section className={classes.right} aria-label={tr("What is next")}>
        <Refusals acts={acts} run={run} />
        <Linked joint={joint} run={run} may={fitter} />
        {run.hands && run.standing === "tighten" && !run.paused && (
          <Hands hands={run.hands} now={next && (next.hand ?? 0)} may={fitter && !next && !path.held} onTake={setTaking} />
        )}
        <Now joint={joint} run={run} shown={shown} fitter={fitter} tool={tool} />
        {next && <StepPapers at={{ recipe: joint.draft.recipe.id, joint: joint.id }} step={next.step} />}
        <Tape joint={joint} run={run} waiting={waiting} mayCorrect={fitter} />
      </section>
    </div>
  );
}

/** In the middle of a ring: what the tool is set to, and where in the work this is. */
function Centre({ shown: { next }, tool, group: g }: { shown: Ahead; tool?: StageTool; group: Group }) {
  if (!next) return null;
  const where =
    next.round > 0
      ? tr("round {round}", { round: next.round })
      : next.stages > 1
        ? tr("stage {stage} of {stages}, {share} %", { stage: next.stage, stages: next.stages, share: number(next.share) })
        : tr("in full");
  return (
    <div className={classes.centre} aria-hidden="true">
      <div>
        {tool ? (
          <>
            <span>
              {tool.draw
                ? tr("drawn at")
                : tool.pressed
                  ? tr("bring {tool} to", { tool: tool.tools[0] })
                  : tr("set {tool} to", { tool: tool.tools[0] })}
            </span>
            <b>{number(tool.setting.value)}</b>
            <span className="mono">{tool.setting.unit}</span>
            {tool.pressed && (
              <Text span c="var(--ink)" fw={700}>
                {tr("which is {lands} N·m", { lands: torque(tool.lands) })}
              </Text>
            )}
            {tool.tools.length > 1 && (
              <Text span c="var(--ink)" fw={700}>
                {tr("{tools} makes it {lands} N·m", { tools: tool.tools[1], lands: torque(tool.lands) })}
              </Text>
            )}
          </>
        ) : (
          next.aim && (
            <>
              <span>{g.how === "pressure" ? tr("at the pump") : tr("by")}</span>
              <b>{number(next.aim.value)}</b>
              <span className="mono">{next.aim.unit}</span>
            </>
          )
        )}
        <span>{where}</span>
      </div>
    </div>
  );
}

interface NowProps {
  joint: ShownJoint;
  run: Run;
  shown: Ahead;
  fitter: boolean;
  tool?: StageTool;
}

function Now({ joint, run, shown, fitter, tool }: NowProps) {
  const navigate = useNavigate();
  const lacks = useLacks(joint, run);
  const left = useActs(joint).some((a) => a.run === run.id && (a.problem || a.lacksPin));
  if (run.standing === "stopped" || run.paused) return <Stopped joint={joint} run={run} />;
  if (lacks && run.standing === "tighten") return <FirstDrill joint={joint} />;
  if (run.hands && !shown.next) return <Together hands={run.hands} />;
  if (shown.held) {
    return (
      <Panel kind="mind" title={tr("Wait")}>
        <p>
          {left
            ? tr("What is asked above comes first.")
            : tr("The server has to answer before the next act is named. What you did is kept on this device.")}
        </p>
      </Panel>
    );
  }
  if (shown.next) {
    if (fitter) return <Pull joint={joint} run={run} next={shown.next} after={shown.after} tool={tool} />;
    return (
      <Panel title={tr("Next")}>
        <p className="big">{told(shown.next.words)}</p>
        <p className="soft">{tr("You see the pulls as they come in.")}</p>
      </Panel>
    );
  }
  const at = run.standing === "prove" ? 4 : 5;
  return (
    <>
      <Stopped joint={joint} run={run} />
      <Panel kind="held">
        <p className="big">
          {run.undoes ? tr("It is undone, bolt by bolt.") : tr("A whole round moved nothing, and every bolt has what the recipe asks for.")}
        </p>
        <Act act={at === 4 ? tr("Prove") : tr("Sign")} kind="held" onClick={() => void navigate(`/joint/${joint.id}/${at}`)} />
      </Panel>
    </>
  );
}
