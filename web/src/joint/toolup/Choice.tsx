import { Button } from "@mantine/core";
import { useState } from "react";
import { useWays } from "../../api/queries";
import type { Group, HandTool, Way } from "../../api/types";
import { useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { ByHand } from "./ByHand";
import { ChainDrawing } from "./ChainDrawing";
import { Facts, Settings } from "./Settings";
import classes from "./toolup.module.css";

interface ChoiceProps {
  joint: string;
  run: string;
  group: Group;
  onChosen: () => void;
}

/** The ways to a group's torque, best first, and the act of taking one. */
export function Choice({ joint, run, group, onChosen }: ChoiceProps) {
  const [hand, setHand] = useState<HandTool>();
  const [entering, setEntering] = useState(false);
  const ways = useWays(joint, group.name, hand);
  const [open, setOpen] = useState(0);
  const record = useRecord(joint, run);
  const choose = (w: Way) => {
    const link = (kind: string) => w.links.find((l) => l.kind === kind)?.tag;
    const multiplier = link("multiplier");
    const tools = hand ? { byHand: hand } : { wrench: link("wrench"), ...(multiplier ? { multiplier } : {}) };
    record({ kind: "tooling", group: group.name, ...tools });
    onChosen();
  };
  const all = ways.data?.ways ?? [];
  const good = all.filter((w) => !w.refused);
  const refused = all.filter((w) => w.refused);
  const best = good[open];
  useKeys(best ? { " ": () => choose(best) } : {});
  return (
    <div className={classes.toolup} data-group={group.name}>
      <header className={classes.head}>
        <h2>
          {good.length === 1 ? "One way" : `${good.length || "No"} ways`} to reach {torque(group.torque)} N·m{" "}
          {hand ? `with ${hand.tag}` : "from what is in the crib"}
        </h2>
        {good.length > 1 && <span className="soft">best first</span>}
        <Button variant="default" onClick={() => (hand ? setHand(undefined) : setEntering(true))}>
          {hand ? "Back to the crib" : "Not in the crib?"}
        </Button>
      </header>
      {ways.isError && <Refusal error={ways.error} />}
      {best && (
        <>
          <Panel kind="now" className={classes.best}>
            <ChainDrawing way={best} thread={group.thread} />
            <p className={classes.chainWords}>
              <b>{best.links.map((l) => l.tag).join(" and ")}</b>, set to{" "}
              <b className="mono">
                {number(best.stages.at(-1)!.setting.value)} {best.stages.at(-1)!.setting.unit}
              </b>
            </p>
            <div className={classes.facts}>
              <Facts tool={best.stages.at(-1)!} />
              <Button color="now" size="lg" onClick={() => choose(best)} data-choose={best.links[0]!.tag}>
                Take {best.links.map((l) => l.tag).join(" and ")} <kbd>space</kbd>
              </Button>
            </div>
          </Panel>
          <Settings tools={best.stages} links={best.links.length} />
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
                    set to {number(w.stages.at(-1)!.setting.value)} {w.stages.at(-1)!.setting.unit}
                    {w.stages.at(-1)!.force > 0 && `, hand force ${number(Math.round(w.stages.at(-1)!.force))} N`}
                    {w.stages.at(-1)!.heavy && ": heavy"}
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
