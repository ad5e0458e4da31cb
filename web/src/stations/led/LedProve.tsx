import type { LedJoint } from "../../api/types";
import { Nothing } from "../Nothing";
import { StationSteps } from "./StationSteps";

/** Station four of a joint that a recipe leads: what has to be shown before it is signed. */
export function LedProve({ joint }: { joint: LedJoint }) {
  const run = joint.job.run;
  if (!run) return <Nothing joint={joint} what="No plan is issued yet, so there is nothing to prove." station={1} act="Lay out" />;
  return <StationSteps joint={joint} run={run} station={4} />;
}
