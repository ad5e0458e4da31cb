import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { JobRun, LedJoint } from "../../api/types";
import { useOutboxState } from "../../app/context";
import { Figure } from "../../drawing/Figure";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Nothing } from "../Nothing";
import { Refusals } from "../tighten/Refusals";
import { Tape } from "../tighten/Tape";
import tighten from "../tighten/tighten.module.css";
import { jobAhead } from "./ahead";
import { boltsOf, keyOf, orderOf, ownerOf } from "./bolts";
import classes from "./led.module.css";
import { Pull } from "./Pull";
import { Signs } from "./Signs";
import { StepCard } from "./StepCard";
import { Stopped } from "./Stopped";
import { filled } from "./words";

/** Station three of a joint that a recipe leads: bolt by bolt, and the steps between. */
export function LedTighten({ joint }: { joint: LedJoint }) {
  const run = joint.job.run;
  if (!run) return <Nothing joint={joint} what="No plan is issued yet." station={1} act="Lay out" />;
  if (run.stage === "lay out") return <Nothing joint={joint} what="The steps before the first bolt are still open." station={1} act="Prepare" />;
  if (run.stage === "tool up") return <Nothing joint={joint} what="No tool is chosen for what comes now." station={2} act="Tool up" />;
  return <Work joint={joint} run={run} />;
}

function Work({ joint, run }: { joint: LedJoint; run: JobRun }) {
  const { acts } = useOutboxState();
  const fitter = useMay("fitter");
  const [labels, setLabels] = useState("position");
  const shown = jobAhead(run, acts);
  const { next } = shown;
  const bolts = boltsOf(run, labels === "order" ? orderOf(run.groups) : undefined);
  for (const { act, moved } of shown.sent) {
    const key = keyOf(run.groups, act);
    const b = bolts.get(key);
    if (b) bolts.set(key, { ...b, ...(act.lock ? { locked: true } : act.round > 0 && act.turn > 0 ? (moved ? { level: Math.max(b.level ?? 0, 0.5) } : { level: 1, mark: "still" }) : act.round > 0 ? { mark: moved ? "moved" : "still" } : { level: run.undoes ? 0 : Math.max(b.level ?? 0, act.share > 0 ? act.share / 100 : 0.5) }) });
  }
  const group = next && run.groups.find((g) => g.name === next.group);
  const stage = group && next ? group.stages.indexOf(next.share) : -1;
  const tool = stage >= 0 ? group?.tooling?.[stage] : undefined;
  for (const [key, b] of bolts) bolts.set(key, { ...b, current: next ? (b.level ?? 0) >= next.share / 100 : true });
  const step = run.steps.find((s) => s.station === 3 && s.offered && !s.group);
  return (
    <div className={tighten.tighten}>
      <section className={tighten.left}>
        <header className={tighten.viewHead}>
          <b>{run.figure.clock ? "Nut side, 12 o’clock at the top" : "Seen from the nut side"}</b>
          {run.figure.bolts.length > 2 && (
            <SegmentedControl
              size="sm"
              value={labels}
              onChange={setLabels}
              data={[
                { value: "position", label: "stamped number" },
                { value: "order", label: "turn order" },
              ]}
            />
          )}
        </header>
        <div className={tighten.drawing}>
          <Figure
            figure={run.figure}
            title={next ? `${next.words} is next` : "No bolt is next"}
            bolts={bolts}
            next={next ? keyOf(run.groups, next) : undefined}
            then={shown.after[0] ? keyOf(run.groups, shown.after[0]) : undefined}
            group={group ? ownerOf(run.groups, group.name) : undefined}
          />
          {next && tool && run.figure.clock && (
            <div className={tighten.centre} aria-hidden="true">
              <div>
                <span>set {tool.tools[0]} to</span>
                <b>{number(tool.setting.value)}</b>
                <span className={tighten.unit}>{tool.setting.unit}</span>
                {tool.tools.length > 1 && <span className={tighten.through}>{tool.tools[1]} makes it {torque(tool.lands)} N·m</span>}
                <span>{next.round > 0 ? `round ${next.round}` : group && group.stages.length > 1 ? `stage ${stage + 1} of ${group.stages.length}, ${number(next.share)} %` : "in full"}</span>
              </div>
            </div>
          )}
        </div>
        <Signs run={run} next={next} />
      </section>
      <section className={tighten.right}>
        <Refusals acts={acts} run={run} />
        <Now joint={joint} run={run} shown={shown} fitter={fitter} step={step} />
        <Tape joint={joint} run={run} waiting={acts.filter((a) => a.run === run.id && !a.problem && !run.tape.some((l) => l.id === a.entry.id))} mayCorrect={fitter} />
      </section>
    </div>
  );
}

interface NowProps {
  joint: LedJoint;
  run: JobRun;
  shown: ReturnType<typeof jobAhead>;
  fitter: boolean;
  step?: JobRun["steps"][number];
}

function Now({ joint, run, shown, fitter, step }: NowProps) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState<Record<string, string[]>>({});
  if (run.stage === "stopped" || run.paused) return <Stopped joint={joint} run={run} />;
  if (shown.held) {
    return (
      <Panel kind="mind" title="Wait">
        <p>The server has to answer before the next act is named. What you did is kept on this device.</p>
      </Panel>
    );
  }
  if (shown.next && !fitter) {
    return (
      <Panel title="Next">
        <p className={classes.big}>{shown.next.words}</p>
        <p className="soft">You see the pulls as they come in.</p>
      </Panel>
    );
  }
  if (shown.next) return <Pull joint={joint} run={run} next={shown.next} after={shown.after} />;
  if (step) return <StepCard key={step.id} joint={joint} run={run} step={step} typed={filled(typed[step.id], step.spots.length)} onTyped={(v) => setTyped({ ...typed, [step.id]: v })} placed={false} />;
  const at = run.stage === "prove" ? 4 : 5;
  return (
    <Panel kind="held">
      <p className={classes.big}>{run.undoes ? "It is undone, bolt by bolt." : run.again ? "A whole round moved nothing." : "Every bolt has what the recipe asks for."}</p>
      <Button color="held" size="lg" fullWidth onClick={() => void navigate(`/joint/${joint.id}/${at}`)} className={classes.main}>
        {at === 4 ? "Prove" : "Sign"}
      </Button>
    </Panel>
  );
}
