import { useNavigate } from "react-router";
import { useMay } from "../api/queries";
import type { Joint, Run } from "../api/types";
import { useKeys } from "../app/keys";
import { nameOf } from "../bench/drills/kinds";
import { Act } from "../ui/Act";
import { Panel } from "../ui/Panel";
import { tr } from "../words/words";

/** Whether whoever is signed in has a drill to pass before they make this joint. */
export function useLacks(joint: Joint, run: Run) {
  return useMay("fitter") && joint.drills !== undefined && run.standing !== "signed";
}

/** What is passed before this kind of joint is made, where that is not done. */
export function FirstDrill({ joint }: { joint: Joint }) {
  const navigate = useNavigate();
  const first = joint.drills![0]!;
  const go = () => void navigate(`/bench/drills?drill=${encodeURIComponent(first)}&joint=${joint.id}`);
  useKeys({ " ": go });
  return (
    <Panel kind="mind" title={tr("First, a drill")}>
      <p className="big" data-lacks={joint.drills!.join(", ")}>
        {joint.drills!.map(nameOf).join(", ")}
      </p>
      <p>{tr("An engineer asks for it before this kind of joint is made. It takes a few minutes; what was done so far is kept.")}</p>
      <Act act={tr("Do the drill")} hint={tr("space bar")} onClick={go} data-act="drill" />
    </Panel>
  );
}
