import { useMay } from "../../api/queries";
import type { Joint, Run } from "../../api/types";
import { Ring } from "../../drawing/Ring";
import { dateTime, kilonewtons, millimetres, number, torque } from "../../ui/format";
import { Nothing } from "../Nothing";
import { Before } from "./Before";
import { Files } from "./Files";
import classes from "./sign.module.css";
import { SignedBy } from "./SignedBy";
import { Signing } from "./Signing";
import { WhatFollows } from "./WhatFollows";

/** Station five: the record as it will print, and who signs it. */
export function Sign({ joint }: { joint: Joint }) {
  const fitter = useMay("fitter");
  if (!joint.plan || !joint.run) return <Nothing joint={joint} what="No plan is issued yet, so there is no record." station={1} act="Lay out" />;
  return (
    <div className={classes.sign}>
      <Paper joint={joint} run={joint.run} />
      <div className={classes.right}>
        <Signing joint={joint} run={joint.run} checker="inspector" mayMake={fitter} />
        <Files joint={joint.id} entries={joint.run.entries} />
        <WhatFollows joint={joint} />
        <Before joint={joint} />
      </div>
    </div>
  );
}

const stages: Record<Run["stage"], string> = {
  "tool up": "no tool chosen yet",
  tighten: "being tightened",
  check: "in check rounds",
  stopped: "stopped",
  prove: "waits for proof",
  sign: "waits for signatures",
  signed: "signed",
};

function Paper({ joint, run }: { joint: Joint; run: Run }) {
  const plan = joint.plan!;
  return (
    <article className={classes.paper}>
      <header>
        <h1 className="mono">{joint.tag}</h1>
        <p>
          {joint.title}, {joint.area}. Plan {plan.revision}, {stages[run.stage]}.
        </p>
      </header>
      <h2>Deviations</h2>
      {run.deviations.length === 0 ? (
        <p>None.</p>
      ) : (
        <ul className={classes.deviations}>
          {run.deviations.map((d) => (
            <li key={d.text} data-outside={d.outside || undefined}>
              {d.text}
              {d.outside && <b> (outside its limit)</b>}
            </li>
          ))}
        </ul>
      )}
      <h2>The joint</h2>
      <div className={classes.jointRow}>
        <div>
          <p>
            {plan.input.bolts} × {plan.input.thread}, {plan.input.fastening}, {plan.input.grade}, on a {number(plan.input.boltCircle.value)} {plan.input.boltCircle.unit} circle. Lubrication: {plan.input.lubrication}.
          </p>
          <p>
            <b className="mono">{torque(plan.result.torque)} N·m</b>, {kilonewtons(plan.result.load)} kN a bolt. Issued by {plan.issuedBy}, {dateTime(plan.issuedAt)}.
          </p>
          <table className={classes.table}>
            <thead>
              <tr>
                <th>pass</th>
                <th>torque</th>
                <th>tools</th>
                <th>set to</th>
              </tr>
            </thead>
            <tbody className="mono">
              {plan.result.passes.map((p, i) => {
                const t = run.tooling?.[i];
                return (
                  <tr key={p.number}>
                    <td>{p.share} %</td>
                    <td>{torque(t?.torque ?? p.torque)} N·m</td>
                    <td>{t?.tools.join(" + ") ?? "–"}</td>
                    <td>{t ? `${number(t.setting.value)} ${t.setting.unit}` : "–"}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        <div className={classes.small}>
          <Ring title="The joint" bolts={run.bolts} onCentre={plan.input.onCentre} />
        </div>
      </div>
      <h2>Proof</h2>
      {run.rounds.map((r) => (
        <p key={r.number}>
          Check round {r.number}: {r.done} tried, {r.moved.length ? `bolt ${r.moved.join(", ")} moved` : "none moved"}
          {r.interrupted ? "; does not count" : ""}.
        </p>
      ))}
      {(["before", "after"] as const).map((phase) => {
        const g = phase === "before" ? run.gapBefore : run.gapAfter;
        return (
          g && (
            <p key={phase}>
              Gap {phase}: <span className="mono">{g.values.map((v) => millimetres(v)).join(" · ")}</span> mm, spread {millimetres(g.spread)} of {millimetres(g.limit)} mm, {g.parallel ? "parallel" : `open at ${g.openSide}`}.
            </p>
          )
        );
      })}
      <SignedBy run={run} />
    </article>
  );
}
