import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { useMay } from "../../api/queries";
import type { LedJoint } from "../../api/types";
import { boltKey, Figure } from "../../drawing/Figure";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { Before } from "../sign/Before";
import layout from "../layout/layout.module.css";
import { orderOf } from "./bolts";
import { Carry } from "./Carry";
import { GroupSentence, Reason } from "./GroupSentence";
import { JobSentence, ValueWord } from "./JobSentence";
import { JobIssue } from "./JobIssue";
import classes from "./led.module.css";
import { StationSteps } from "./StationSteps";
import { useJobDraft } from "./useJobDraft";

/** Station one of a joint that a recipe leads: what it is, and, once that is issued, its steps up to the first bolt. */
export function LedLayOut({ joint }: { joint: LedJoint }) {
  const run = joint.job.run;
  const [chosen, setShown] = useState<string>();
  const shown = chosen ?? (run && !joint.job.plan?.changed ? "steps" : "plan");
  return (
    <div className={classes.layOut}>
      {run && (
        <SegmentedControl
          className={classes.views}
          value={shown}
          onChange={setShown}
          size="md"
          data={[
            { value: "steps", label: "prepare and bring together" },
            { value: "plan", label: "the plan" },
          ]}
        />
      )}
      {run && shown === "steps" ? <StationSteps joint={joint} run={run} station={1} /> : <Plan joint={joint} onGoOn={() => setShown("steps")} />}
    </div>
  );
}

function Plan({ joint, onGoOn }: { joint: LedJoint; onGoOn: () => void }) {
  const draft = useJobDraft(joint);
  const { job } = draft;
  const mayChange = [useMay("fitter"), useMay("engineer")].some(Boolean);
  const [labels, setLabels] = useState<"order" | "position">("order");
  const order = orderOf(job.groups);
  const bolts = new Map(job.figure.bolts.map((b) => [boltKey(b.group, b.bolt), { label: labels === "order" ? order.get(boltKey(b.group, b.bolt)) : b.bolt }]));
  const paths = job.groups.filter((g) => !g.of && g.count > 2).map((g) => g.order.map((b) => boltKey(g.name, b)));
  const inGroups = new Set(job.groups.map((g) => g.value));
  const others = job.values.filter((v) => !inGroups.has(v.name));
  return (
    <div className={layout.layout}>
      <div className={layout.left}>
        <div className={layout.drawing} data-waits={draft.problem ? true : undefined}>
          {job.figure.bolts.length > 0 ? (
            <Figure figure={job.figure} bolts={bolts} paths={paths} title={`${job.recipe.title} in its order`} />
          ) : (
            <p className={classes.nothingDrawn}>The drawing comes with the bolts.</p>
          )}
        </div>
        {job.figure.bolts.length > 1 && (
          <div className={classes.under}>
            <SegmentedControl
              size="sm"
              value={labels}
              onChange={(v) => setLabels(v as "order" | "position")}
              data={[
                { value: "order", label: "turn order" },
                { value: "position", label: "stamped number" },
              ]}
            />
            <a href={`/api/joints/${joint.id}/drawing?labels=${labels}`} download className={classes.print}>
              Drawing to print
            </a>
          </div>
        )}
        <Minds draft={draft} mayChange={mayChange} />
      </div>
      <div className={layout.right}>
        <Panel title="The joint, in one sentence" aside={<Saved draft={draft} />}>
          <JobSentence draft={draft} mayChange={mayChange} />
          {others.length > 0 && (
            <p className={classes.sentence}>
              {others.map((v, i) => (
                <span key={v.name}>
                  {i > 0 && "; "}
                  {v.text}: <ValueWord draft={draft} value={v} mayChange={mayChange} />
                </span>
              ))}
              .
            </p>
          )}
        </Panel>
        <div className={layout.answer} data-waits={draft.problem ? true : undefined}>
          {job.groups.map((g) => (
            <Panel key={g.name} className={classes.group}>
              <GroupSentence draft={draft} group={g} mayChange={mayChange} />
              <Carry group={g} />
            </Panel>
          ))}
        </div>
        {job.open.length > 0 && (
          <Panel kind="mind" title="Before it may be issued">
            <ul className={classes.open}>
              {job.open.map((o) => (
                <li key={o.field + o.text}>{o.text}</li>
              ))}
            </ul>
            {mayChange && <Reasons draft={draft} />}
          </Panel>
        )}
        {job.open.length === 0 && mayChange && <Reasons draft={draft} />}
        {draft.problem?.code === "changed-meanwhile" && (
          <div className={layout.row}>
            <Refusal problem={draft.problem} />
            <Button onClick={draft.takeTheirs}>Show theirs</Button>
          </div>
        )}
        {draft.problem && !draft.problem.field && draft.problem.code !== "changed-meanwhile" && <Refusal problem={draft.problem} />}
        <JobIssue joint={joint} blocked={Boolean(draft.problem) || draft.saving} onGoOn={onGoOn} />
        <Before joint={joint} />
        <p className={classes.sheet}>
          {job.recipe.sheet && <>Values: {job.recipe.sheet}. </>}Recipe {job.recipe.id}, edition {job.recipe.edition}
          {job.recipe.newer && <> (there is an edition {job.recipe.newer})</>}.
        </p>
      </div>
    </div>
  );
}

function Minds({ draft, mayChange }: { draft: ReturnType<typeof useJobDraft>; mayChange: boolean }) {
  const { job } = draft;
  return (
    <Panel title="Mind" kind="mind">
      {job.minds.length === 0 && <p>{job.recipe.against || "Nothing special."} The maker’s value wins over anything computed here.</p>}
      <ul className={layout.minds}>
        {job.minds.map((m) => (
          <li key={m.text}>
            {m.text}{" "}
            {m.offer && m.take && mayChange && (
              <button type="button" className={layout.offer} onClick={() => draft.changeGroup(m.group, { decision: m.take })}>
                {m.offer}
              </button>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** The reasons that are asked for, or that were given. */
function Reasons({ draft }: { draft: ReturnType<typeof useJobDraft> }) {
  const { job, input } = draft;
  const asked = job.groups.filter((g) => job.open.some((o) => o.field === `groups.${g.name}.reason`) || input.groups[g.name]?.reason);
  return asked.map((g) => <Reason key={g.name} group={g.name} value={input.groups[g.name]?.reason ?? ""} onSet={(reason) => draft.changeGroup(g.name, { reason })} />);
}

function Saved({ draft }: { draft: ReturnType<typeof useJobDraft> }) {
  if (draft.problem) return <span data-saved="no">not stored: see below</span>;
  if (draft.saving) return <span data-saved="saving">storing</span>;
  const { plan, version } = draft.job;
  if (plan && !plan.changed) return <span data-saved="yes">plan {plan.revision}, issued</span>;
  if (plan) return <span data-saved="yes">draft after plan {plan.revision}</span>;
  return <span data-saved="yes">{version ? "draft, stored" : "not laid out yet"}</span>;
}

