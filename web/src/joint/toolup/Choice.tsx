import { Button, Group as Row, SimpleGrid, Stack } from "@mantine/core";
import { useState } from "react";
import { useWays } from "../../api/queries";
import type { Group, HandTool, Way } from "../../api/types";
import { useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { ByHand } from "./ByHand";
import { Chain } from "./Chain";
import { Settings } from "./Settings";

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
    <Stack gap={14} maw={1400} data-group={group.name}>
      <Row component="header" gap={14}>
        <h2>
          {good.length === 1 ? "One way" : `${good.length || "No"} ways`} to reach {torque(group.torque)} N·m{" "}
          {hand ? `with ${hand.tag}` : "from what is in the crib"}
        </h2>
        {good.length > 1 && <span className="soft">best first</span>}
        <Button ml="auto" variant="default" onClick={() => (hand ? setHand(undefined) : setEntering(true))}>
          {hand ? "Back to the crib" : "Not in the crib?"}
        </Button>
      </Row>
      <Refusal error={ways.error} />
      {best && (
        <>
          <Panel kind="now">
            <Chain way={best} thread={group.thread}>
              <Button color="now" size="lg" mih={64} onClick={() => choose(best)} data-choose={best.links[0]!.tag}>
                Take {tags(best)} <kbd>space</kbd>
              </Button>
            </Chain>
          </Panel>
          <Settings tools={best.stages} links={best.links.length} />
        </>
      )}
      {good.length > 1 && (
        <SimpleGrid cols={{ base: 1, xs: 2, lg: 3 }} spacing={10}>
          {good.map(
            (w, i) =>
              i !== open && (
                <button key={tags(w)} type="button" className="pick" onClick={() => setOpen(i)}>
                  <b>{tags(w)}</b>
                  <br />
                  <span className="soft">
                    set to {number(w.stages.at(-1)!.setting.value)} {w.stages.at(-1)!.setting.unit}
                    {w.stages.at(-1)!.force > 0 && `, hand force ${number(Math.round(w.stages.at(-1)!.force))} N`}
                    {w.stages.at(-1)!.heavy && ": heavy"}
                  </span>
                </button>
              ),
          )}
        </SimpleGrid>
      )}
      {refused.length > 0 && (
        <details open={good.length === 0}>
          <summary className="link">{refused.length} cannot be used, and why</summary>
          <ul className="lines">
            {refused.map((w) => (
              <li key={tags(w)}>
                <b className="mono">{tags(w)}</b> {w.refused}
              </li>
            ))}
          </ul>
        </details>
      )}
      {entering && (
        <ByHand
          onClose={() => setEntering(false)}
          onTool={(t) => {
            setHand(t);
            setOpen(0);
            setEntering(false);
          }}
        />
      )}
    </Stack>
  );
}

const tags = (w: Way) => w.links.map((l) => l.tag).join(" and ");
