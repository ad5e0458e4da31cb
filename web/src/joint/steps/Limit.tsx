import type { ReadAsk, Step } from "../../api/types";
import { Num } from "../numbers/Numbers";
import { told } from "../../words/words";

/** Whose numbers those of a step are. */
export const ofStep = (step: Step) => `step/${step.id}`;

/** What readings must be; each number that is a share of a value says where it comes from. */
export function Limits({ step, pieces }: { step: Step; pieces: ReadAsk["limit"] }) {
  return pieces.map((p) =>
    p.number ? (
      <Num key={p.number} of={ofStep(step)} number={p.number}>
        {told(p.text)}
      </Num>
    ) : (
      told(p.text)
    ),
  );
}

/** The limits of all that is read at a step, each by its name where there are several. */
export function Limit({ step }: { step: Step }) {
  const limited = step.reads.filter((r) => r.limit.length > 0);
  return limited.map((r, i) => (
    <span key={r.from}>
      {i > 0 && "; "}
      {step.reads.length > 1 && r.name && `${told(r.name)} `}
      <Limits step={step} pieces={r.limit} />
    </span>
  ));
}

/** What readings that are kept come to. */
export function Comes({ step }: { step: Step }) {
  if (!step.comes) return null;
  if (step.reads.length > 1) return told(step.comes);
  return (
    <Num of={ofStep(step)} number="spread" long>
      {told(step.comes)}
    </Num>
  );
}
