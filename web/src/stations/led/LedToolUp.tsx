import { Button } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { JobGroup, JobRun, LedJoint } from "../../api/types";
import { useOutboxState } from "../../app/context";
import { torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Nothing } from "../Nothing";
import { Refusals } from "../tighten/Refusals";
import { Choice } from "../toolup/Choice";
import { Facts, Settings } from "../toolup/Settings";
import toolup from "../toolup/toolup.module.css";
import { capital } from "./words";
import classes from "./led.module.css";
import { StepCard } from "./StepCard";

/** Station two of a joint that a recipe leads: a tool for each group that is torqued, then what is checked of it. */
export function LedToolUp({ joint }: { joint: LedJoint }) {
  const run = joint.job.run;
  if (!run) return <Nothing joint={joint} what="No plan is issued yet, so there is no value to set a tool to." station={1} act="Lay out" />;
  return <Groups joint={joint} run={run} />;
}

function Groups({ joint, run }: { joint: LedJoint; run: JobRun }) {
  const navigate = useNavigate();
  const fitter = useMay("fitter");
  const { acts } = useOutboxState();
  const groups = run.groups.filter((g) => g.how === "torque");
  const [changing, setChanging] = useState<string>();
  const [typed, setTyped] = useState<Record<string, string[]>>({});
  const missing = groups.find((g) => !g.tooling);
  const open = groups.find((g) => g.name === changing) ?? missing;
  const sent = new Set(acts.filter((a) => a.run === run.id).map((a) => a.entry.content.step));
  const step = run.steps.find((s) => s.station === 2 && s.offered && !sent.has(s.id));
  const earlier = run.stage === "lay out";
  const free = run.signatures.length === 0 && fitter;
  return (
    <div className={classes.toolUp}>
      {groups.length > 1 && (
        <nav className={classes.groupTabs} aria-label="What is tightened">
          {groups.map((g) => (
            <button key={g.name} type="button" aria-pressed={g === open} onClick={() => setChanging(g.name)} disabled={!free}>
              <b>{g.name}</b>
              <span className="mono">{window(g)}</span>
              <span className="soft">{g.tooling ? g.tooling.at(-1)!.tools.join(" + ") : "no tool yet"}</span>
            </button>
          ))}
        </nav>
      )}
      <Refusals acts={acts} run={run} />
      {open && free && <Choice key={open.name} joint={joint.id} run={run.id} target={open.torque} thread={open.thread} group={open.name} onChosen={() => setChanging(undefined)} />}
      {open && !free && <Panel>A fitter chooses the tool for the {open.name}.</Panel>}
      {!open && groups.length === 0 && (
        <Panel title="Tools">
          <p>Nothing here is set on a wrench’s scale. What is needed: {joint.job.recipe.tools.join(", ")}.</p>
        </Panel>
      )}
      {!open &&
        groups.map((g) => (
          <section key={g.name} className={toolup.toolup}>
            <header className={toolup.head}>
              <h1>
                {capital(g.name)}: {g.tooling!.at(-1)!.tools.join(" and ")}
              </h1>
              <span className="soft">for {window(g)}</span>
              {free && (
                <Button variant="default" onClick={() => setChanging(g.name)}>
                  Change the tool
                </Button>
              )}
            </header>
            <Panel kind="held">
              <Facts tool={g.tooling!.at(-1)!} />
            </Panel>
            {groups.length === 1 && <Settings tools={g.tooling!} links={g.tooling!.at(-1)!.tools.length} />}
          </section>
        ))}
      {!open && earlier && <Panel kind="mind">The steps before the tools are still open at Lay out.</Panel>}
      {!open && step && free && <StepCard key={step.id} joint={joint} run={run} step={step} typed={typed[step.id] ?? step.spots.map(() => "")} onTyped={(v) => setTyped({ ...typed, [step.id]: v })} placed={false} />}
      {!open && !step && joint.station >= 3 && (
        <Button color="now" size="lg" onClick={() => void navigate(`/joint/${joint.id}/3`)}>
          Tighten
        </Button>
      )}
    </div>
  );
}

/** A group's torque, or its window. */
export function window(g: JobGroup) {
  return g.torqueMax > g.torqueMin ? `${torque(g.torqueMin)} to ${torque(g.torqueMax)} N·m` : `${torque(g.torque)} N·m`;
}
