import { Button, Group as Row, NativeSelect, SegmentedControl, SimpleGrid, Stack } from "@mantine/core";
import { useState } from "react";
import { type Place, useWays } from "../../api/queries";
import type { Group, HandTool, Way } from "../../api/types";
import { useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { kilonewtons, number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { ByHand } from "./ByHand";
import { Chain } from "./Chain";
import { Settings } from "./Settings";
import { told, tr } from "../../words/words";

/** A tool that was taken of those that work at once. */
interface Taken {
  name: string;
  tags: string[];
  links: Partial<ReturnType<typeof chosen>> & { byHand?: HandTool };
}

interface ChoiceProps {
  joint: string;
  run: string;
  group: Group;
  onChosen: () => void;
}

/** What the place asks for: nothing, an offset end because no wrench stands over it, or an extension of so many millimetres. */
const places = [
  { value: "over", label: tr("straight over it") },
  { value: "offset", label: tr("with an offset end") },
  { value: "150", label: tr("150 mm deep") },
  { value: "300", label: tr("300 mm deep") },
];

/** The ways to a group's torque, best first, and the act of taking one. */
export function Choice({ joint, run, group, onChosen }: ChoiceProps) {
  const [hand, setHand] = useState<HandTool>();
  const [entering, setEntering] = useState(false);
  const [at, setAt] = useState("over");
  const [angle, setAngle] = useState(0);
  const [count, setCount] = useState(1);
  const [taken, setTaken] = useState<Taken[]>([]);
  const asked: Place = at === "over" ? {} : at === "offset" ? { offset: true, angle } : { reach: Number(at) };
  const place = taken.length > 0 ? { ...asked, taken: taken.flatMap((t) => t.tags) } : asked;
  const ways = useWays(joint, group.name, hand, place);
  const [open, setOpen] = useState(0);
  const record = useRecord(joint, run);
  const choose = (w: Way) => {
    const now = [...taken, { name: w.stages.at(-1)!.tools[0]!, tags: w.own ?? [], links: hand ? { byHand: hand } : chosen(w) }];
    if (now.length < count) {
      setTaken(now);
      setHand(undefined);
      setOpen(0);
      return;
    }
    const [first, ...beside] = now.map((t) => t.links);
    record({ kind: "tooling", group: group.name, ...first, ...(beside.length > 0 ? { beside } : {}) });
    onChosen();
  };
  const all = ways.data?.ways ?? [];
  const good = all.filter((w) => !w.refused);
  const refused = all.filter((w) => w.refused);
  const left = ways.data?.left ?? [];
  const best = good[Math.min(open, good.length - 1)];
  const fetch = ways.data?.fetch;
  useKeys(best ? { " ": () => choose(best) } : {});
  return (
    <Stack gap={14} maw={1400} data-group={group.name}>
      <Row component="header" gap={14}>
        <h2>{heading(good.length, group, hand)}</h2>
        {good.length > 1 && <span className="soft">{tr("best first")}</span>}
        <Row ml="auto" gap={10}>
          {!hand && !group.drawn && !group.pressed && (
            <NativeSelect
              aria-label={tr("How the tool comes to the bolt")}
              name="place"
              data={places}
              value={at}
              onChange={(e) => {
                setAt(e.currentTarget.value);
                setOpen(0);
              }}
            />
          )}
          <Button variant="default" onClick={() => (hand ? setHand(undefined) : setEntering(true))}>
            {hand ? tr("Back to the crib") : tr("Not in the crib?")}
          </Button>
        </Row>
      </Row>
      {(group.atOnce?.length ?? 0) > 1 && (
        <Row gap={14} data-at-once={count}>
          <SegmentedControl
            aria-label={tr("Tools at once")}
            value={String(count)}
            onChange={(v) => {
              setCount(Number(v));
              setTaken([]);
            }}
            data={group.atOnce!.map((n) => ({ value: String(n), label: n === 1 ? tr("one tool") : tr("{n} at once", { n }) }))}
          />
          {count > 1 && (
            <span>
              <b>{tr("Tool {n} of {all}", { n: taken.length + 1, all: count })}</b>
              {taken.length > 0 && <span className="soft">{tr(", with {taken}", { taken: taken.map((t) => t.name).join(", ") })}</span>}
              {": "}
              {tr("each in its own hand, on its own screen.")}
            </span>
          )}
        </Row>
      )}
      <Refusal error={ways.error} />
      {fetch ? (
        <p>
          <b>
            {ways.data!.inside
              ? tr("Fetch a bit of {size} mm:", { size: number(fetch) })
              : tr("Fetch a socket of {size} mm:", { size: number(fetch) })}
          </b>{" "}
          {taken.length > 0
            ? tr("the crib has no other. It is not on the record until it is.")
            : tr("the crib has none. It is not on the record until it is.")}
        </p>
      ) : null}
      {best && (
        <>
          <Panel kind="now">
            <Chain
              stages={best.stages}
              thread={group.thread}
              fetch={hand ? undefined : fetch}
              inside={ways.data?.inside}
              onTurn={at === "offset" ? setAngle : undefined}
            >
              <Button color="now" size="lg" mih={64} onClick={() => choose(best)} data-choose={best.stages.at(-1)!.tools[0]}>
                {tr("Take {best}", { best: tags(best) })} <kbd>{tr("space")}</kbd>
              </Button>
            </Chain>
          </Panel>
          <Settings tools={best.stages} />
        </>
      )}
      {good.length > 1 && (
        <SimpleGrid cols={{ base: 1, xs: 2, lg: 3 }} spacing={10}>
          {good.map(
            (w, i) =>
              w !== best && (
                <button
                  key={w.stages
                    .at(-1)!
                    .links.map((l) => l.tag)
                    .join(" ")}
                  type="button"
                  className="pick"
                  onClick={() => setOpen(i)}
                >
                  <b>{tags(w)}</b>
                  <br />
                  <span className="soft">
                    {tr("set to {setting} {unit}{force}{heavy}", {
                      setting: number(w.stages.at(-1)!.setting.value),
                      unit: w.stages.at(-1)!.setting.unit,
                      force:
                        w.stages.at(-1)!.force > 0 && tr(", hand force {force} N", { force: number(Math.round(w.stages.at(-1)!.force)) }),
                      heavy: w.stages.at(-1)!.heavy && tr(": heavy"),
                    })}
                  </span>
                </button>
              ),
          )}
        </SimpleGrid>
      )}
      {refused.map((w) => (
        <Refusal key={w.refused} problem={w.refusal} />
      ))}
      {left.length > 0 && (
        <details open={good.length === 0}>
          <summary className="link">{tr("{left} are in none of these, and why", { left: left.length })}</summary>
          <ul className="lines">
            {left.map((l) => (
              <li key={l.tag} data-left={l.tag}>
                <b className="mono">{l.tag}</b> {told(l.why)}
              </li>
            ))}
          </ul>
        </details>
      )}
      {entering && (
        <ByHand
          group={group}
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

const tags = (w: Way) => w.stages.at(-1)!.tools.join(" and ");

/** A way as it is chosen: each link by its place. */
function chosen(w: Way) {
  const links = w.stages.at(-1)!.links;
  const tag = (kind: string) => links.find((l) => l.kind === kind)?.tag;
  const geared = links.findIndex((l) => l.kind === "multiplier");
  const adapters = links.map((l, i) => ({ l, i })).filter(({ l }) => l.kind === "adapter");
  const first = adapters.find(({ i }) => geared < 0 || i < geared)?.l.tag;
  const second = adapters.find(({ i }) => geared >= 0 && i > geared)?.l.tag;
  const offset = links.find((l) => l.kind === "offset end");
  if (w.stages.at(-1)!.draw || w.stages.at(-1)!.pressed) {
    const part = (kind: string) => (tag(kind) ? { [kind]: tag(kind) } : {});
    return { hydraulic: tag("hydraulic wrench"), ...part("tensioner"), ...part("pump"), ...part("gauge"), ...part("socket") };
  }
  return {
    wrench: tag("wrench"),
    ...(first ? { first } : {}),
    ...(tag("multiplier") ? { multiplier: tag("multiplier") } : {}),
    ...(second ? { second } : {}),
    ...(offset ? { offset: offset.tag, angle: offset.angle ?? 0 } : {}),
    ...(tag("extension") ? { extension: tag("extension") } : {}),
    ...(tag("socket") ? { socket: tag("socket") } : {}),
  };
}

/** How many ways there are, and what to. */
function heading(count: number, group: Group, hand?: HandTool) {
  const what = group.drawn
    ? hand
      ? tr("to leave {load} kN in each with {tag}", { load: kilonewtons(group.drawn.load), tag: hand.tag })
      : tr("to leave {load} kN in each from what is in the crib", { load: kilonewtons(group.drawn.load) })
    : hand
      ? tr("to reach {torque} N·m with {tag}", { torque: torque(group.torque), tag: hand.tag })
      : tr("to reach {torque} N·m from what is in the crib", { torque: torque(group.torque) });
  return count === 0 ? tr("No way {what}", { what }) : tr("{count} ways {what}", { count, what });
}
