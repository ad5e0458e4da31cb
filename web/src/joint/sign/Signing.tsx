import { Stack } from "@mantine/core";
import { useState } from "react";
import { type Shown, useSession } from "../../api/queries";
import type { Run } from "../../api/types";
import { useActs, useWatched } from "../../app/context";
import { Act } from "../../ui/Act";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import { Prepare, Prepared } from "./Prepare";
import { article, capital } from "../words";

/** What signing needs, and the act of it. */
export function Signing({ joint, run }: { joint: Shown; run: Run }) {
  const me = useSession();
  const site = me?.site;
  const [asking, setAsking] = useState(false);
  const { checker } = run;
  const made = run.signatures.some((s) => s.part === "made");
  const mayMake = !made && run.mayMake;
  const mayCheck = made && run.mayCheck;
  const reason =
    made && run.outside
      ? "Something is outside its limit or was left undone. Why is it accepted?"
      : site?.sayWhy
        ? "What did you see?"
        : undefined;
  const sign = useWatched(joint.id, run.id, () => setAsking(false));
  const prepared = useActs(joint).find((a) => a.run === run.id && a.entry.content.kind === "signature" && a.entry.onto !== undefined);
  if (prepared) return <Prepared joint={joint} act={prepared} />;
  if (run.standing === "signed") {
    return (
      <Panel kind="held" title="Signed">
        <p className="big">Made and checked. Nothing can be added to this record.</p>
      </Panel>
    );
  }
  if (run.open.length > 0) {
    return (
      <Panel kind="mind" title="Still open">
        <Stack component="ul" gap={6} fz={18}>
          {run.open.map((o) => (
            <li key={o}>{capital(o)}</li>
          ))}
        </Stack>
      </Panel>
    );
  }
  return (
    <Panel kind="now" title={made ? "Second signature" : "First signature"}>
      <p className="big">
        {made
          ? `${capital(article(checker))} who had no hand in it checks the record and signs.`
          : "Whoever pulled the bolts signs that they were made as recorded."}
      </p>
      {mayMake || mayCheck ? (
        <Act act={`${made ? "Checked" : "Made"}: ${joint.judged ? "prepare to sign" : "sign"}`} onClick={() => setAsking(true)} />
      ) : (
        <p className="soft">
          {made ? `You are not the one: ${article(checker)} signs next.` : "You are not the one: a fitter signs first."}
        </p>
      )}
      {asking && joint.judged && (
        <Prepare joint={joint} run={run} part={made ? "checked" : "made"} reason={reason} onClose={() => setAsking(false)} />
      )}
      {asking && !joint.judged && (
        <Pin
          title={made ? `Sign that ${joint.tag} was checked` : `Sign that ${joint.tag} was made`}
          act="Sign"
          reason={reason}
          {...sign}
          onClose={() => {
            sign.takeBack();
            setAsking(false);
          }}
          onPin={(pin, { reason }) =>
            sign.send({ kind: "signature", part: made ? "checked" : "made", ...(reason ? { reason } : {}) }, { pin })
          }
        >
          <p>
            As {me?.person.name}.{" "}
            {run.deviations.length === 0 ? "No deviations." : `${run.deviations.length} deviations are listed on the record.`}
          </p>
        </Pin>
      )}
    </Panel>
  );
}
