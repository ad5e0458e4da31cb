import { useNavigate, useParams } from "react-router";
import { useJoint } from "../api/queries";
import { InBar } from "../app/Shell";
import { useKeys } from "../app/keys";
import { Refusal } from "../ui/Refusal";
import { LayOut } from "./layout/LayOut";
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
  const plan = j.plan;
  return (
    <div className={classes.station}>
      <InBar>
        <span className={classes.plate}>
          <b className="mono">{j.tag}</b>
          <span className={classes.plateMore}>{j.title}</span>
          <span className={classes.plateMore}>{plan ? `${plan.input.bolts} × ${plan.input.thread}, plan ${plan.revision}` : "no plan issued"}</span>
        </span>
      </InBar>
      <Stud joint={j} at={at} />
      <main className={classes.work} key={`${j.id}/${at}`}>
        {at === 1 && <LayOut joint={j} />}
        {at === 2 && <ToolUp joint={j} />}
        {at === 3 && <Tighten joint={j} />}
        {at === 4 && <Prove joint={j} />}
        {at === 5 && <Sign joint={j} />}
      </main>
    </div>
  );
}
