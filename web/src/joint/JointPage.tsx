import { useEffect } from "react";
import { useNavigate, useParams } from "react-router";
import { type Shown, useJoint } from "../api/queries";
import { KeptSince } from "../along/KeptSince";
import { useJudged } from "../app/context";
import { useKeys } from "../app/keys";
import { InBar } from "../app/Shell";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { LayOut } from "./layout/LayOut";
import { Nothing } from "./Nothing";
import { Numbers } from "./numbers/Numbers";
import { Sign } from "./sign/Sign";
import classes from "./station.module.css";
import { StationSteps } from "./steps/StationSteps";
import { Stud, stations } from "./Stud";
import { Tighten } from "./tighten/Tighten";
import { ToolUp } from "./toolup/ToolUp";
import { told, tr } from "../words/words";

/** A joint at one of its five stations. */
export function JointPage() {
  const { joint: id = "", station = "" } = useParams();
  const joint = useJoint(id);
  const navigate = useNavigate();
  const go = (n: number) => void navigate(`/joint/${id}/${n}`);
  useKeys({ "1": () => go(1), "2": () => go(2), "3": () => go(3), "4": () => go(4), "5": () => go(5) });
  const j = useJudged(joint.data);
  const tag = j?.tag;
  useEffect(() => {
    if (tag) document.title = tr("{tag} · Dynacor", { tag });
  }, [tag]);
  if (!j) return joint.isError ? <Refusal error={joint.error} /> : null;
  const at = Number(station) || j.station;
  return (
    <div className={classes.station}>
      <InBar>
        <span className={classes.plate}>
          <b className="mono">{j.tag}</b>
          <span className={classes.plateMore}>{told(j.title)}</span>
          <span className={classes.plateMore}>
            {j.plan
              ? tr("{nameplate}, plan {revision}", { nameplate: told(j.draft.nameplate), revision: j.plan.revision })
              : told(j.draft.recipe.title)}
          </span>
        </span>
      </InBar>
      <Stud joint={j} at={at} />
      <main className={classes.work} key={`${j.id}/${at}`}>
        <h1 className="visually-hidden">
          {j.tag}
          {": "}
          {stations[at - 1]}
        </h1>
        {j.kept && <KeptSince {...j.kept} judged={j.judged !== undefined} />}
        {j.run?.fault && (
          <Panel kind="stop" title={tr("This record does not hold")}>
            <p>{tr("What is stored is not what was stored: {fault}.", { fault: told(j.run.fault) })}</p>
            <p>{tr("Nothing can be added to it. Leave the joint as it is and tell the administrator.")}</p>
          </Panel>
        )}
        <div className={j.kept ? classes.below : classes.all}>
          <Numbers joint={j} of="plan">
            <Station joint={j} at={at} />
          </Numbers>
        </div>
      </main>
    </div>
  );
}

function Station({ joint, at }: { joint: Shown; at: number }) {
  if (at === 1) return <LayOut joint={joint} />;
  if (!joint.run)
    return (
      <Nothing
        joint={joint}
        what={
          [
            tr("No plan is issued yet, so there is nothing to tool up."),
            tr("No plan is issued yet, so there is nothing to tighten."),
            tr("No plan is issued yet, so there is nothing to prove."),
            tr("No plan is issued yet, so there is nothing to sign."),
          ][at - 2]!
        }
        station={1}
        act={tr("Lay out")}
      />
    );
  if (at === 2) return <ToolUp joint={joint} run={joint.run} />;
  if (at === 3) return <Tighten joint={joint} run={joint.run} />;
  if (at === 4) return <StationSteps joint={joint} run={joint.run} station={4} />;
  return <Sign joint={joint} run={joint.run} />;
}
