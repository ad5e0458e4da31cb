import { Button } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { sendEntry } from "../../api/client";
import { keepRun, useWays } from "../../api/queries";
import type { HandTool, Way } from "../../api/types";
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
  /** N·m at the nut. */
  target: number;
  thread: string;
  /** Of a joint that a recipe leads. */
  group?: string;
  onChosen: () => void;
}

/** The ways to a torque, best first, and the act of taking one. */
export function Choice({ joint, run, target, thread, group, onChosen }: ChoiceProps) {
  const [hand, setHand] = useState<HandTool>();
  const [entering, setEntering] = useState(false);
  const ways = useWays(joint, group, hand);
  const [open, setOpen] = useState(0);
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (w: Way) => {
      const link = (kind: string) => w.links.find((l) => l.kind === kind)?.tag;
      const tools = hand ? { byHand: hand } : { wrench: link("wrench"), ...(link("multiplier") ? { multiplier: link("multiplier") } : {}) };
      return sendEntry(run, group !== undefined, { id: crypto.randomUUID(), kind: "tooling", at: new Date().toISOString(), content: { ...tools, ...(group ? { group } : {}) } });
    },
    onSuccess: (r) => {
      keepRun(queries, joint, r);
      onChosen();
    },
  });
  const all = ways.data?.ways ?? [];
  const good = all.filter((w) => !w.refused);
  const refused = all.filter((w) => w.refused);
  const best = good[open];
  return (
    <div className={classes.toolup} data-group={group}>
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
            <ChainDrawing way={best} thread={thread} />
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
