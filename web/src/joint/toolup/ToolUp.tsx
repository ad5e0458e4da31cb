import { Button, Group as Row, Stack } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay, useWays } from "../../api/queries";
import type { Group, Joint, Run } from "../../api/types";
import { useActs } from "../../app/context";
import { useKeys } from "../../app/keys";
import { DriveSide } from "../../drawing/hydraulics/DriveSide";
import { LotsToday } from "../../library/LotCheck";
import { kilonewtons, number } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Budget } from "../layout/Budget";
import { StepCard } from "../steps/StepCard";
import { FirstDrill, useLacks } from "../FirstDrill";
import { LetGo } from "../numbers/LetGo";
import { Stopped } from "../steps/Stopped";
import { AnotherLubricant } from "../tighten/AnotherLubricant";
import { Refusals } from "../tighten/Refusals";
import { capital } from "../words";
import { ofHand } from "../bolts";
import { Chain } from "./Chain";
import { Choice } from "./Choice";
import { HeldTools } from "./HeldTools";
import { Settings } from "./Settings";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** Station two: a tool for each group that is torqued, then what is checked of it. */
export function ToolUp({ joint, run }: { joint: Joint; run: Run }) {
  const fitter = useMay("fitter");
  const acts = useActs(joint);
  const groups = run.groups.filter((g) => g.tooled);
  const [changing, setChanging] = useState<string>();
  const mine = acts.filter((a) => a.run === run.id && !a.problem && !a.pinned).map((a) => a.entry.content);
  const sending = (g: Group) => mine.some((c) => c.kind === "tooling" && c.group === g.name);
  const open = groups.find((g) => g.name === changing) ?? groups.find((g) => !g.tooling && !sending(g));
  const step = run.steps.find(
    (s) => s.station === 2 && s.offered && (s.ticks.length > 0 || !mine.some((c) => c.kind === "done" && c.step === s.id)),
  );
  const earlier = run.standing === "lay out";
  const lacks = useLacks(joint, run);
  const free = run.standing !== "signed" && fitter && !lacks;
  const going = !run.paused && run.standing !== "stopped";
  return (
    <Stack gap={14} maw={1400}>
      {lacks && <FirstDrill joint={joint} />}
      {groups.length > 1 && (
        <Row component="nav" gap={10} aria-label={tr("What is tightened")}>
          {groups.map((g) => (
            <button
              key={g.name}
              type="button"
              className="pick"
              aria-pressed={g === open}
              onClick={() => setChanging(g.name)}
              disabled={!free}
            >
              <b>{told(g.name)}</b> <span className="mono">{told(g.window)}</span>
              <br />
              <span className="soft">
                {g.tooling ? g.tooling.at(-1)!.tools.join(" + ") : sending(g) ? tr("being stored") : tr("no tool yet")}
              </span>
            </button>
          ))}
        </Row>
      )}
      <HeldTools joint={joint} />
      <Stopped joint={joint} run={run} />
      <Refusals acts={acts} run={run} />
      <LotsToday names={run.groups.map((g) => g.lubrication)} />
      {open && free && <Choice key={open.name} joint={joint.id} run={run.id} group={open} onChosen={() => setChanging(undefined)} />}
      {open && !free && !lacks && <Panel>{tr("A fitter chooses the tool for the {open}.", { open: told(open.name) })}</Panel>}
      {run.groups.map(
        (g) =>
          g.breakout && (
            <Panel key={g.name} kind="mind" title={tr("What the {g} let go at", { g: told(g.name) })}>
              <p className="big" data-breakout={g.name}>
                <LetGo of={g.name} range={g.breakout} />
              </p>
              <LetGoBy joint={joint.id} group={g.name} />
              <p>
                {tr(
                  "Take a spanner or a bar that reaches the upper end with room to spare. A torque wrench is no tool to loosen with; beyond the range stop and look.",
                )}
              </p>
            </Panel>
          ),
      )}
      {!open && groups.length === 0 && (
        <Panel title={tr("Tools")}>
          <p>
            {tr("Nothing here is set on a wrench’s scale. What is needed: {tools}.", {
              tools: joint.draft.recipe.tools.map((x) => told(x)).join(", "),
            })}
          </p>
        </Panel>
      )}
      {!open && groups.length === 0 && <LookedAt run={run} />}
      {!open && earlier && <Panel kind="mind">{tr("The steps before the tools are still open at Lay out.")}</Panel>}
      {!open && step && free && going && <StepCard key={step.id} joint={joint} run={run} step={step} />}
      {!open && !step && going && !lacks && joint.station >= 3 && <Onward joint={joint} />}
      {!open &&
        groups.map(
          (g) =>
            g.tooling && (
              <Chosen key={g.name} group={g} alone={groups.length === 1} onChange={free ? () => setChanging(g.name) : undefined} />
            ),
        )}
      <div>
        <AnotherLubricant joint={joint} run={run} />
      </div>
    </Stack>
  );
}

/** To what pressure a hydraulic wrench of the Crib may have to go before nuts let go, by its own chart. */
function LetGoBy({ joint, group }: { joint: string; group: string }) {
  const ways = useWays(joint, group);
  const good = ways.data?.ways.filter((w) => !w.refused) ?? [];
  if (good.length === 0) return null;
  return (
    <ul className="lines" style={{ margin: "10px 0" }} aria-label={tr("By hydraulic wrench")}>
      {good.map((w) => {
        const t = w.stages[0]!;
        return (
          <li key={t.tools.join()} data-lets-go={t.tools[0]}>
            <Say
              of="By hydraulic wrench: {tools} up to {setting} {span}"
              with={{
                tools: <b className="mono">{t.tools.join(" + ")}</b>,
                setting: (
                  <b className="mono">
                    {number(t.setting.value)} {t.setting.unit}
                  </b>
                ),
                span: <span className="soft">{tr("by its chart; it stalls there, and stops")}</span>,
              }}
            />
          </li>
        );
      })}
    </ul>
  );
}

/** What was looked at before the first bolt, where no tool is chosen. */
function LookedAt({ run }: { run: Run }) {
  const done = run.steps.filter((s) => s.station === 2 && s.done);
  const shows = done.find((s) => s.shows)?.shows;
  if (done.length === 0) return null;
  return (
    <Panel kind="held" title={tr("Looked at")}>
      <ol className="lines">
        {done.map((s) => (
          <li key={s.id}>
            {told(s.text)} {s.readings && <b className="mono">{told(s.readings)}</b>} <span className="soft">{s.doneBy}</span>
          </li>
        ))}
      </ol>
      {shows && <DriveSide to={shows === "drive to loosen" ? "loosen" : "tighten"} />}
    </Panel>
  );
}

function Onward({ joint }: { joint: Joint }) {
  const navigate = useNavigate();
  const go = () => void navigate(`/joint/${joint.id}/3`);
  useKeys({ " ": go });
  return (
    <Button color="now" size="lg" mih={72} miw={260} style={{ alignSelf: "start" }} onClick={go}>
      {tr("Tighten")} <kbd>{tr("space")}</kbd>
    </Button>
  );
}

function Chosen({ group: g, alone, onChange }: { group: Group; alone: boolean; onChange?: () => void }) {
  const tools = g.tooling ?? [];
  const all = [tools, ...(g.beside ?? [])];
  const last = tools.at(-1);
  if (!last) return null;
  return (
    <Stack component="section" gap={14}>
      <Row component="header" gap={14}>
        <h2>
          {capital(told(g.name))}
          {": "}
          {all.map((t) => t.at(-1)!.tools.join(tr(" and "))).join(tr(", at once with "))}
        </h2>
        <span className="soft">{tr("for {window}", { window: told(g.window) })}</span>
        {onChange && (
          <Button ml="auto" variant="default" onClick={onChange}>
            {tr("Change the tool")}
          </Button>
        )}
      </Row>
      <Panel kind="held">
        {all.map((of, hand) => (
          <Chain key={hand} stages={of} thread={g.thread} of={ofHand(g.name, hand)} />
        ))}
        {g.band && (
          <div data-band={g.name}>
            <p>
              <Say
                of="a bolt then carries {load}, likely {low}"
                with={{
                  load: (
                    <b className="mono">
                      {kilonewtons(g.band.load)}
                      {" kN"}
                    </b>
                  ),
                  low: <b className="mono">{tr("{low} to {high} kN", { low: kilonewtons(g.band.low), high: kilonewtons(g.band.high) })}</b>,
                }}
              />
            </p>
            <Budget parts={g.band.budget} />
          </div>
        )}
      </Panel>
      {alone && all.map((of, hand) => <Settings key={hand} tools={of} of={ofHand(g.name, hand)} />)}
    </Stack>
  );
}
