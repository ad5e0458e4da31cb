import { useNavigate, useParams } from "react-router";
import { useJoint } from "../api/queries";
import { InBar } from "../app/Shell";
import { useKeys } from "../app/keys";
import { Refusal } from "../ui/Refusal";
import type { Joint, LedJoint, RingJoint } from "../api/types";
import { LayOut } from "./layout/LayOut";
import { nameplate } from "./led/words";
import { LedLayOut } from "./led/LedLayOut";
import { LedProve } from "./led/LedProve";
import { LedSign } from "./led/LedSign";
import { LedTighten } from "./led/LedTighten";
import { LedToolUp } from "./led/LedToolUp";
import { Prove } from "./prove/Prove";
import { Sign } from "./sign/Sign";
import { Stud } from "./Stud";
import { Tighten } from "./tighten/Tighten";
import { ToolUp } from "./toolup/ToolUp";
import classes from "./station.module.css";

/** A joint at one of its five stations. */
export function JointPage() {
  const { joint: id = "", station = "" } = useParams();
  const joint = useJoint(id);
  const navigate = useNavigate();
  const go = (n: number) => void navigate(`/joint/${id}/${n}`);
  useKeys({ "1": () => go(1), "2": () => go(2), "3": () => go(3), "4": () => go(4), "5": () => go(5) });
  const j = joint.data;
  if (!j) return joint.isError ? <Refusal error={joint.error} /> : null;
  const at = Number(station) || j.station;
  return (
    <div className={classes.station}>
      <InBar>
        <span className={classes.plate}>
          <b className="mono">{j.tag}</b>
          <span className={classes.plateMore}>{j.title}</span>
          <span className={classes.plateMore}>{plateWords(j)}</span>
        </span>
      </InBar>
      <Stud joint={j} at={at} />
      <main className={classes.work} key={`${j.id}/${at}`}>
        {j.job ? <Led joint={j as LedJoint} at={at} /> : j.draft && <OfRing joint={j as RingJoint} at={at} />}
      </main>
    </div>
  );
}

function plateWords(j: Joint) {
  if (j.job) return j.job.plan ? `${nameplate(j.job)}, plan ${j.job.plan.revision}` : j.job.recipe.title;
  return j.plan ? `${j.plan.input.bolts} × ${j.plan.input.thread}, plan ${j.plan.revision}` : "no plan issued";
}

/** The stations of a gasketed flange. */
function OfRing({ joint, at }: { joint: RingJoint; at: number }) {
  if (at === 1) return <LayOut joint={joint} />;
  if (at === 2) return <ToolUp joint={joint} />;
  if (at === 3) return <Tighten joint={joint} />;
  return at === 4 ? <Prove joint={joint} /> : <Sign joint={joint} />;
}

/** The stations of every other kind, led by its recipe. */
function Led({ joint, at }: { joint: LedJoint; at: number }) {
  if (at === 1) return <LedLayOut joint={joint} />;
  if (at === 2) return <LedToolUp joint={joint} />;
  if (at === 3) return <LedTighten joint={joint} />;
  return at === 4 ? <LedProve joint={joint} /> : <LedSign joint={joint} />;
}
