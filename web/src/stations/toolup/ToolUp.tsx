import { Button } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { http, take } from "../../api/client";
import { keepRun, useMay, useWays } from "../../api/queries";
import type { HandTool, Joint, PassTool, Way } from "../../api/types";
import { number, percent, signed, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { ScaleView } from "../../ui/ScaleView";
import { Nothing } from "../Nothing";
import { ChainDrawing } from "./ChainDrawing";
import { ByHand } from "./ByHand";
import classes from "./toolup.module.css";

/** Station two: which tool, and how it is set. */
export function ToolUp({ joint }: { joint: Joint }) {
  if (!joint.plan || !joint.run) return <Nothing joint={joint} what="No plan is issued yet, so there is no value to set a tool to." station={1} act="Lay out" />;
  return <Ways joint={joint} />;
}

function Ways({ joint }: { joint: Joint }) {
  const run = joint.run!;
  const fitter = useMay("fitter");
  const [changing, setChanging] = useState(false);
  const chosen = run.tooling;
  if (chosen && !changing) return <Chosen joint={joint} tools={chosen} onChange={fitter && run.stage !== "signed" ? () => setChanging(true) : undefined} />;
  if (!fitter) return <Nothing joint={joint} what="A fitter chooses the tool." station={1} act="The plan" />;
  return <Choice joint={joint} onChosen={() => setChanging(false)} />;
}

function Choice({ joint, onChosen }: { joint: Joint; onChosen: () => void }) {
  const [hand, setHand] = useState<HandTool>();
  const [entering, setEntering] = useState(false);
  const ways = useWays(joint.id, hand);
  const [open, setOpen] = useState(0);
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (w: Way) => {
      const link = (kind: string) => w.links.find((l) => l.kind === kind)?.tag;
      const content = hand ? { byHand: hand } : { wrench: link("wrench"), ...(link("multiplier") ? { multiplier: link("multiplier") } : {}) };
      return take(http.POST("/api/runs/{run}/entries", { params: { path: { run: joint.run!.id } }, body: { id: crypto.randomUUID(), kind: "tooling", at: new Date().toISOString(), content } }));
    },
    onSuccess: (run) => {
      keepRun(queries, joint.id, run);
      onChosen();
    },
  });
  const all = ways.data?.ways ?? [];
  const good = all.filter((w) => !w.refused);
  const refused = all.filter((w) => w.refused);
  const target = joint.plan!.result.torque;
  const best = good[open];
  return (
    <div className={classes.toolup}>
      <header className={classes.head}>
        <h1>
          {good.length === 1 ? "One way" : `${good.length || "No"} ways`} to reach {torque(target)} N·m {hand ? `with ${hand.tag}` : "from what is in the crib"}
        </h1>
        {good.length > 1 && <span className="soft">best first</span>}
        <Button variant="default" onClick={() => (hand ? setHand(undefined) : setEntering(true))}>
          {hand ? "Back to the crib" : "Not in the crib?"}
        </Button>
      </header>
      {ways.isError && <Refusal error={ways.error} />}
      {choose.isError && <Refusal error={choose.error} />}
      {best && (
        <>
          <Panel kind="now" className={classes.best}>
            <ChainDrawing way={best} thread={joint.plan!.input.thread} />
            <p className={classes.chainWords}>
              <b>{best.links.map((l) => l.tag).join(" and ")}</b>, set to{" "}
              <b className="mono">
                {number(best.passes.at(-1)!.setting.value)} {best.passes.at(-1)!.setting.unit}
              </b>
            </p>
            <div className={classes.facts}>
              <Facts tool={best.passes.at(-1)!} />
              <Button color="now" size="lg" loading={choose.isPending} onClick={() => choose.mutate(best)} data-choose={best.links[0]!.tag}>
                Take {best.links.map((l) => l.tag).join(" and ")}
              </Button>
            </div>
          </Panel>
          <Settings tools={best.passes} links={best.links.length} />
        </>
      )}
      {good.length > 1 && (
        <div className={classes.others}>
          {good.map(
            (w, i) =>
              i !== open && (
                <button key={w.links.map((l) => l.tag).join()} type="button" className={classes.other} onClick={() => setOpen(i)}>
                  <b>{w.links.map((l) => l.tag).join(" and ")}</b>
                  <span className="soft">
                    set to {number(w.passes.at(-1)!.setting.value)} {w.passes.at(-1)!.setting.unit}
                    {w.passes.at(-1)!.force > 0 && `, hand force ${number(Math.round(w.passes.at(-1)!.force))} N`}
                    {w.passes.at(-1)!.heavy && ": heavy"}
                  </span>
                </button>
              ),
          )}
        </div>
      )}
      {refused.length > 0 && (
        <details className={classes.refused} open={good.length === 0}>
          <summary>{refused.length} cannot be used, and why</summary>
          <ul>
            {refused.map((w) => (
              <li key={w.links.map((l) => l.tag).join()}>
                <b className="mono">{w.links.map((l) => l.tag).join(" + ")}</b> {w.refused}
              </li>
            ))}
          </ul>
        </details>
      )}
      <ByHand
        opened={entering}
        onClose={() => setEntering(false)}
        onTool={(t) => {
          setHand(t);
          setOpen(0);
          setEntering(false);
        }}
      />
    </div>
  );
}

function Facts({ tool }: { tool: PassTool }) {
  return (
    <ul className={classes.factList}>
      <li>
        lands on <b className="mono">{torque(tool.lands)}</b> N·m ({signed(tool.error)} %)
      </li>
      <li>
        chain accuracy <b className="mono">± {percent(tool.accuracy)} %</b>
      </li>
      {tool.force > 0 && (
        <li>
          hand force <b className="mono">{number(Math.round(tool.force))} N</b>
          {tool.heavy ? ", heavy" : ""}
        </li>
      )}
      <li>{tool.due ? `in calibration to ${tool.due}` : "calibration not known"}</li>
    </ul>
  );
}

/** How each pass is set, and the scale as the hand sees it for the last. */
function Settings({ tools, links }: { tools: PassTool[]; links: number }) {
  const [shown, setShown] = useState(tools.length - 1);
  const t = tools[Math.min(shown, tools.length - 1)]!;
  return (
    <div className={classes.settings}>
      <Panel title={`Set ${t.tools[0]} to ${number(t.setting.value)} ${t.setting.unit}`} aside={`pass ${t.pass}`}>
        <ScaleView tool={t} />
      </Panel>
      <Panel title="Per pass">
        <ol className={classes.perPass}>
          {tools.map((p, i) => (
            <li key={p.pass}>
              <button type="button" aria-pressed={i === shown} onClick={() => setShown(i)}>
                <span className="mono">{torque(p.torque)} N·m</span>
                <span>{p.tools.join(" + ")}</span>
                <b className="mono">
                  {number(p.setting.value)} {p.setting.unit}
                </b>
                <span className="soft mono">{signed(p.error)} %</span>
              </button>
            </li>
          ))}
        </ol>
      </Panel>
      <Panel title={links > 1 ? "Reaction" : "Hands"} kind="stop">
        {links > 1 ? (
          <p>Arm flat on the neighbouring nut or the flange’s edge, same side as the pull. Nothing that gives. Hands off the arm while you pull. Gloves.</p>
        ) : (
          <p>Hand on the middle of the grip, square to the nut. Smooth, one click, stop. Never a pipe on it, never to loosen. Sure footing.</p>
        )}
      </Panel>
    </div>
  );
}

function Chosen({ joint, tools, onChange }: { joint: Joint; tools: PassTool[]; onChange?: () => void }) {
  const navigate = useNavigate();
  const last = tools.at(-1)!;
  return (
    <div className={classes.toolup}>
      <header className={classes.head}>
        <h1>{last.tools.join(" and ")} chosen</h1>
        <span className="soft">for {torque(last.torque)} N·m</span>
        {onChange && (
          <Button variant="default" onClick={onChange}>
            Change the tool
          </Button>
        )}
        <Button color="now" onClick={() => void navigate(`/joint/${joint.id}/3`)}>
          Tighten
        </Button>
      </header>
      <Panel kind="held">
        <Facts tool={last} />
      </Panel>
      <Settings tools={tools} links={last.tools.length} />
      <Panel title="Before, during, after">
        <p>Before: not dropped, worked a few times at mid scale, drive and socket clean. After: wound back to its lowest mark, not past it; clean, dry, in its case.</p>
      </Panel>
      <p>
        <Link to={`/joint/${joint.id}/1`}>The plan</Link>
      </p>
    </div>
  );
}
