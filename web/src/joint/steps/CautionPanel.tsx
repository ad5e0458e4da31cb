import { Stack } from "@mantine/core";
import type { Step } from "../../api/types";
import { useKeys } from "../../app/keys";
import { Act } from "../../ui/Act";
import { CautionSign } from "../../ui/CautionSign";
import { Panel } from "../../ui/Panel";
import { Say } from "../../words/Say";
import { Told } from "../../ui/Told";
import { tr } from "../../words/words";

/**
 * The cautions of a step, read once a run by each person before anything else of it. Their key is not the one that
 * pulls: a press too many must not read them.
 */
export function CautionPanel({ step, onRead }: { step: Step; onRead: () => void }) {
  useKeys({ c: onRead });
  const grave = step.cautions.some((c) => c.kind === "danger" || c.kind === "forbidden");
  return (
    <Panel kind={grave ? "stop" : "mind"} title={tr("Before this step")}>
      <Stack component="ul" gap={14}>
        {step.cautions.map((c) => (
          <li key={c.text}>
            <CautionSign caution={c} />
          </li>
        ))}
      </Stack>
      <p className="soft">
        <Say of="Then: {step}" with={{ step: <Told text={step.text} /> }} />
      </p>
      <Act act={tr("Read, and it is so")} hint={tr("key C")} kind={grave ? "stop" : "mind"} onClick={onRead} data-act="caution" />
      <p className="fine">{tr("Dynacor does not replace the maker’s instructions, local codes, permits and qualified people.")}</p>
    </Panel>
  );
}
