import type { JobRun, LedJoint } from "../../api/types";
import { Figure } from "../../drawing/Figure";
import { dateTime, number } from "../../ui/format";
import { Nothing } from "../Nothing";
import { Before } from "../sign/Before";
import { Files } from "../sign/Files";
import sign from "../sign/sign.module.css";
import { SignedBy } from "../sign/SignedBy";
import { Signing } from "../sign/Signing";
import { boltsOf } from "./bolts";
import classes from "./led.module.css";
import { capital, nameplate } from "./words";

/** Station five of a joint that a recipe leads: the record as it will print, and who signs it. */
export function LedSign({ joint }: { joint: LedJoint }) {
  const run = joint.job.run;
  if (!run) return <Nothing joint={joint} what="No plan is issued yet, so there is no record." station={1} act="Lay out" />;
  return (
    <div className={sign.sign}>
      <Paper joint={joint} run={run} />
      <div className={sign.right}>
        <Signing joint={joint} run={run} checker={run.checker} mayMake={run.mayMake} />
        <Files joint={joint.id} entries={run.entries} drawing />
        <Before joint={joint} />
      </div>
    </div>
  );
}

const stations = ["", "Lay out", "Tool up", "Tighten", "Prove"];

function Paper({ joint, run }: { joint: LedJoint; run: JobRun }) {
  const { plan, recipe } = joint.job;
  return (
    <article className={sign.paper}>
      <header>
        <h1 className="mono">{joint.tag}</h1>
        <p>
          {joint.title}, {joint.area}. {recipe.title}, {nameplate(joint.job)}. Plan {run.revision}
          {run.stage === "signed" ? ", signed" : ""}.
        </p>
      </header>
      <h2>Deviations</h2>
      {run.deviations.length === 0 ? (
        <p>None.</p>
      ) : (
        <ul className={sign.deviations}>
          {run.deviations.map((d) => (
            <li key={d.text} data-outside={d.outside || undefined}>
              {d.text}
              {d.outside && <b> (outside its limit, or left undone)</b>}
            </li>
          ))}
        </ul>
      )}
      <h2>The joint</h2>
      <div className={sign.jointRow}>
        <div>
          {alike(run.groups).map(({ names, words, tools }) => (
            <p key={names}>
              <b>{capital(names)}</b>: {words} {tools && <span className="soft">{tools}.</span>}
            </p>
          ))}
          {plan && (
            <p className="soft">
              Issued by {plan.issuedBy}, {dateTime(plan.issuedAt)}, by edition {recipe.edition} of its recipe. {plan.reason}
            </p>
          )}
        </div>
        <div className={sign.small}>
          <Figure figure={run.figure} bolts={boltsOf(run)} title="The joint" />
        </div>
      </div>
      {[1, 2, 3, 4].map((n) => (
        <section key={n}>
          <h2>{stations[n]}</h2>
          <ul className={classes.recordSteps}>
            {run.steps
              .filter((s) => s.station === n)
              .map((s) => (
                <li key={s.id} data-open={!s.done || undefined} data-outside={s.outside ? true : undefined}>
                  {s.text} {s.readings && <b className="mono">{s.readings}</b>} {s.limit && <span className="soft">({s.limit})</span>}
                  {s.marks.length > 0 && <span className="soft">{s.marks.join("; ")}. </span>}
                  {s.tries.length > 1 && <span className="soft"> {s.tries.length} tries: {s.tries.map((t) => t.readings).join(", ")}.</span>}
                  {s.outside && (
                    <b>
                      {" "}
                      {s.outside}. Because: {s.reason}
                    </b>
                  )}
                  <span className="soft"> {s.done && s.doneBy ? `${s.doneBy}, ${dateTime(s.doneAt!)}` : "open"}</span>
                </li>
              ))}
          </ul>
        </section>
      ))}
      <SignedBy run={run} />
    </article>
  );
}

/** Groups that are made alike, named together. */
function alike(groups: JobRun["groups"]) {
  const out: { names: string; words: string; tools: string }[] = [];
  for (const g of groups) {
    const tools = [...new Set((g.tooling ?? []).map((t) => `${t.tools.join(" + ")} at ${number(t.setting.value)} ${t.setting.unit}`))].join("; ");
    const same = out.find((o) => o.words === g.words && o.tools === tools);
    if (same) same.names += `, ${g.name}`;
    else out.push({ names: g.name, words: g.words, tools });
  }
  return out;
}
