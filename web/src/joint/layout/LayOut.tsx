import { Button, Center, Group as Row, SegmentedControl, Stack, Text } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { useMay } from "../../api/queries";
import type { Group, Joint } from "../../api/types";
import { boltKey, Figure } from "../../drawing/Figure";
import { kilonewtons, number, percent, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Papers } from "../../ui/Papers";
import { Refusal } from "../../ui/Refusal";
import { orderOf } from "../bolts";
import { Before } from "../sign/Before";
import { StationSteps } from "../steps/StationSteps";
import { Num, Numbers } from "../numbers/Numbers";
import { Budget } from "./Budget";
import { FromBench } from "./FromBench";
import { GasketWindow } from "./GasketWindow";
import { GroupSentence, Reason } from "./GroupSentence";
import { Issue } from "./Issue";
import classes from "./layout.module.css";
import { LoadBar } from "./LoadBar";
import { Sentence, ValueWord } from "./Sentence";
import { Stays } from "./Stays";
import { type DraftState, useDraft } from "./useDraft";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** Station one: what the joint is, and, once that is issued, its steps up to the first bolt. */
export function LayOut({ joint }: { joint: Joint }) {
  const { run } = joint;
  const [chosen, setShown] = useState<string>();
  const shown = chosen ?? (run && !joint.plan?.changed ? "steps" : "plan");
  return (
    <Stack gap={12} maw={1480}>
      {run && (
        <SegmentedControl
          style={{ alignSelf: "start" }}
          value={shown}
          onChange={setShown}
          size="md"
          data={[
            { value: "steps", label: tr("prepare and bring together") },
            { value: "plan", label: tr("the plan") },
          ]}
        />
      )}
      {run && shown === "steps" ? (
        <StationSteps joint={joint} run={run} station={1} />
      ) : (
        <Plan joint={joint} onGoOn={() => setShown("steps")} />
      )}
    </Stack>
  );
}

function Plan({ joint, onGoOn }: { joint: Joint; onGoOn: () => void }) {
  const state = useDraft(joint);
  const { draft, problem } = state;
  const mayChange = useMay("fitter", "engineer", "planner");
  const [labels, setLabels] = useState<"order" | "position">("order");
  const order = orderOf(draft.groups);
  const bolts = new Map(
    draft.figure.bolts.map((b) => [boltKey(b.group, b.bolt), { label: labels === "order" ? order.get(boltKey(b.group, b.bolt)) : b.bolt }]),
  );
  const paths = draft.groups.filter((g) => !g.of && g.count > 2).map((g) => g.order.map((b) => boltKey(g.name, b)));
  const inGroups = new Set(draft.groups.flatMap((g) => [g.value, ...g.gasketNeeds]));
  const others = draft.values.filter((v) => !inGroups.has(v.name));
  return (
    <Numbers joint={joint} of="draft">
      <div className={classes.layout}>
        <Stack gap={12} miw={0}>
          <div className={classes.drawing} data-waits={problem ? true : undefined}>
            {draft.figure.bolts.length > 0 ? (
              <Figure
                figure={draft.figure}
                bolts={bolts}
                paths={paths}
                title={tr("{title} in its order", { title: told(draft.recipe.title) })}
              />
            ) : (
              <Center h="100%" mih={220} c="dimmed" bd="2px dashed var(--line)">
                {tr("The drawing comes with the bolts.")}
              </Center>
            )}
          </div>
          {draft.figure.bolts.length > 1 && (
            <Row justify="space-between">
              <SegmentedControl
                size="sm"
                value={labels}
                onChange={(v) => setLabels(v === "order" ? "order" : "position")}
                data={[
                  { value: "order", label: tr("turn order") },
                  { value: "position", label: tr("stamped number") },
                ]}
              />
              <Row gap={18}>
                <a href={`/api/joints/${joint.id}/drawing?labels=${labels}`} download className="link">
                  {tr("Drawing to print")}
                </a>
                <a href={`/api/joints/${joint.id}/kit`} download className="link">
                  {tr("Parts and kit to print")}
                </a>
              </Row>
            </Row>
          )}
          <Minds draft={state} mayChange={mayChange} />
        </Stack>
        <Stack gap={12} miw={0} className={classes.right}>
          <Panel title={tr("The joint, in one sentence")} aside={<Saved draft={state} />}>
            <Sentence draft={state} mayChange={mayChange} />
            {others.length > 0 && (
              <p className={classes.sentence}>
                {others.map((v, i) => (
                  <span key={v.name}>
                    {i > 0 && "; "}
                    {told(v.text)}
                    {": "}
                    <ValueWord draft={state} value={v} mayChange={mayChange} />
                  </span>
                ))}
                .
              </p>
            )}
          </Panel>
          <Stack gap={12} className={classes.answer} data-waits={problem ? true : undefined}>
            {draft.groups.map((g) => (
              <Panel key={g.name} className={classes.group}>
                <GroupSentence draft={state} group={g} mayChange={mayChange} />
                <Carries group={g} />
                <GasketWindow draft={state} group={g} mayChange={mayChange} />
                {g.load > 0 && <Stays draft={state} group={g} mayChange={mayChange} />}
                {g.load > 0 && g.ring && g.count >= 4 && !g.of && (
                  <Link to={`/bench/${joint.id}`} className="link">
                    {tr("Try it on the Bench")}
                  </Link>
                )}
              </Panel>
            ))}
          </Stack>
          {draft.compared?.map((c) => (
            <FromBench key={c.group} compared={c} named={draft.groups.length > 1} />
          ))}
          {draft.open.length > 0 && (
            <Panel kind="mind" title={tr("Before it may be issued")}>
              <Stack component="ul" gap={4}>
                {draft.open.map((o) => (
                  <li key={o.field + o.text} className="edge" data-edge="mind">
                    {told(o.text)}
                  </li>
                ))}
              </Stack>
              {mayChange && <Reasons draft={state} />}
            </Panel>
          )}
          {draft.open.length === 0 && mayChange && <Reasons draft={state} />}
          {problem?.code === "changed-meanwhile" && (
            <Row gap={12}>
              <Refusal problem={problem} />
              <Button onClick={state.takeTheirs}>{tr("Show theirs")}</Button>
            </Row>
          )}
          {problem && !problem.field && problem.code !== "changed-meanwhile" && <Refusal problem={problem} />}
          <Issue joint={joint} blocked={Boolean(problem) || state.saving} onGoOn={onGoOn} />
          <Papers at={{ recipe: draft.recipe.id, joint: joint.id }} words={(id) => joint.run?.steps.find((s) => s.id === id)?.text} />
          <Before joint={joint} />
          <p className="fine">
            <Say
              of="{sheet}Recipe {id}, edition {edition}{newer}."
              with={{
                sheet: draft.recipe.sheet && <>{tr("Values: {sheet}.", { sheet: told(draft.recipe.sheet) })} </>,
                id: draft.recipe.id,
                edition: draft.recipe.edition,
                newer: draft.recipe.newer && <> {tr("(there is an edition {newer})", { newer: draft.recipe.newer })}</>,
              }}
            />
          </p>
        </Stack>
      </div>
    </Numbers>
  );
}

function Minds({ draft: state, mayChange }: { draft: DraftState; mayChange: boolean }) {
  const { draft } = state;
  return (
    <Panel title={tr("Mind")} kind="mind">
      {draft.minds.length === 0 && (
        <p>
          {tr("{against} The maker’s value wins over all that is computed here.", {
            against: told(draft.recipe.against) || tr("Nothing special."),
          })}
        </p>
      )}
      <Stack component="ul" gap={8}>
        {draft.minds.map((m) => (
          <li key={m.text}>
            {told(m.text)}{" "}
            {m.offer && m.take && mayChange && (
              <button type="button" className="link" onClick={() => state.changeGroup(m.group, { decision: m.take })}>
                {told(m.offer)}
              </button>
            )}
          </li>
        ))}
      </Stack>
    </Panel>
  );
}

/** The reasons that are asked for, or that were given. */
function Reasons({ draft: { draft, input, changeGroup } }: { draft: DraftState }) {
  const asked = draft.groups.filter((g) => draft.open.some((o) => o.field === `groups.${g.name}.reason`) || input.groups[g.name]?.reason);
  return asked.map((g) => (
    <Reason key={g.name} group={g.name} value={input.groups[g.name]?.reason ?? ""} onSet={(reason) => changeGroup(g.name, { reason })} />
  ));
}

/** What each bolt of a group will carry, and its stages. */
function Carries({ group: g }: { group: Group }) {
  if (g.torque === 0) return null;
  return (
    <>
      {g.load > 0 ? (
        <>
          <LoadBar group={g} />
          <Alike group={g} />
          <p className="fine">
            <Say
              of="nut factor {k}, {kLow} to {kHigh} (µ {mu}); wrench ± {accuracy} %"
              with={{
                k: thousandths(g.k),
                kLow: thousandths(g.kLow),
                kHigh: thousandths(g.kHigh),
                mu: (
                  <Num of={g.name} number="mu">
                    {thousandths(g.mu)}
                  </Num>
                ),
                accuracy: percent(g.accuracy),
              }}
            />
          </p>
          <Budget parts={g.budget} />
        </>
      ) : (
        <p className="soft">{tr("Give the thread, and the load that {torque} N·m means is worked out.", { torque: torque(g.torque) })}</p>
      )}
      {g.torques.length > 0 && (
        <Row component="ol" gap="4px 22px" my={6}>
          {g.torques.map((t, i) => (
            <li key={g.stages[i]} className="mono">
              <Text span c="plan" fw={700}>
                {g.torques.length > 1 ? `${number(g.stages[i] ?? 0)} %` : tr("in full")}
              </Text>{" "}
              <Num of={g.name} number={`stage/${i + 1}`}>
                {torque(t)}
                {" N·m"}
              </Num>
            </li>
          ))}
          {g.still && (
            <li className="mono">
              <Text span c="plan" fw={700}>
                {tr("rounds")}
              </Text>{" "}
              {torque(g.torques.at(-1) ?? 0)}
              {" N·m"}
            </li>
          )}
        </Row>
      )}
      {g.checks.length > 0 && (
        <Stack component="ul" gap={0} fz={15}>
          {g.checks.map((c) => (
            <li key={c.name} className="edge" data-edge={c.holds ? "held" : "stop"}>
              {told(c.name)}:{" "}
              <Num of={g.name} number={c.unit ? "limit" : "utilisation"}>
                <span className="mono">{checkWords(c)}</span>
              </Num>{" "}
              {c.holds ? tr("holds") : <b>{tr("does not hold")}</b>}
            </li>
          ))}
        </Stack>
      )}
    </>
  );
}

const thousandths = (v: number) => number(Math.round(v * 1000) / 1000);

/** The same target, said the other ways, and the ends of what it may be. */
function Alike({ group: g }: { group: Group }) {
  const ends = [
    { number: "likelyLow", word: tr("likely"), load: g.likelyLow },
    { number: "likelyHigh", word: tr("to"), to: true, load: g.likelyHigh },
    { number: "worstLow", word: tr("at the worst"), load: g.worstLow },
    { number: "worstHigh", word: tr("to"), to: true, load: g.worstHigh },
    ...(g.limit > 0 ? [{ number: "limit", word: tr("yields at"), load: g.limit }] : []),
  ];
  return (
    <>
      <ul className={classes.alike} aria-label={tr("The same, said otherwise")}>
        {g.alike.map((s) => (
          <li key={s.words} className="mono">
            {s.key ? (
              <Num of={g.name} number={s.key}>
                {told(s.words)}
              </Num>
            ) : (
              told(s.words)
            )}
          </li>
        ))}
      </ul>
      <p className="fine">
        {ends.map((e, i) => (
          <span key={e.number}>
            {i > 0 && ("to" in e ? " " : "; ")}
            {e.word}{" "}
            <Num of={g.name} number={e.number}>
              {kilonewtons(e.load)}
              {" kN"}
            </Num>
          </span>
        ))}
      </p>
    </>
  );
}

/** A check's value and its limit: loads in kN, shares in percent. */
function checkWords({ value, limit, unit }: Group["checks"][number]) {
  if (unit === "N") return tr("{value} of {limit} kN", { value: kilonewtons(value), limit: kilonewtons(limit) });
  return unit
    ? tr("{value} of {limit} {unit}", { value: number(value), limit: number(limit), unit })
    : tr("{value} of {limit} %", { value: percent(value), limit: percent(limit) });
}

function Saved({ draft: { problem, saving, draft, issued: plan } }: { draft: DraftState }) {
  if (problem) return <span data-saved="no">{tr("not stored: see below")}</span>;
  if (saving) return <span data-saved="saving">{tr("storing")}</span>;
  if (plan && !plan.changed) return <span data-saved="yes">{tr("plan {revision}, issued", { revision: plan.revision })}</span>;
  if (plan) return <span data-saved="yes">{tr("draft after plan {revision}", { revision: plan.revision })}</span>;
  return <span data-saved="yes">{draft.version ? tr("draft, stored") : tr("not laid out yet")}</span>;
}
