import type { Step } from "../../api/types";
import { Num } from "../numbers/Numbers";

/** Whose numbers those of a step are. */
export const ofStep = (step: Step) => `step/${step.id}`;

/** What a step's readings must be; each number that is a share of a value says where it comes from. */
export function Limit({ step }: { step: Step }) {
  return step.limit.map((p) =>
    p.number ? (
      <Num key={p.number} of={ofStep(step)} number={p.number}>
        {p.text}
      </Num>
    ) : (
      p.text
    ),
  );
}

/** What readings round a circle that are kept come to. */
export function Comes({ step }: { step: Step }) {
  if (!step.comes) return null;
  return (
    <Num of={ofStep(step)} number="spread" long>
      {step.comes}
    </Num>
  );
}
