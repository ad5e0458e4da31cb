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
import { told, tr } from "../../words/words";

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
      ? tr("Something is outside its limit or was left undone. Why is it accepted?")
      : site?.sayWhy
        ? tr("What did you see?")
        : undefined;
  const sign = useWatched(joint.id, run.id, () => setAsking(false));
  const prepared = useActs(joint).find((a) => a.run === run.id && a.entry.content.kind === "signature" && a.entry.onto !== undefined);
  if (prepared) return <Prepared joint={joint} act={prepared} />;
  if (run.standing === "signed") {
    return (
      <Panel kind="held" title={tr("Signed")}>
        <p className="big">{tr("Made and checked. Nothing can be added to this record.")}</p>
      </Panel>
    );
  }
  if (run.open.length > 0) {
    return (
      <Panel kind="mind" title={tr("Still open")}>
        <Stack component="ul" gap={6} fz={18}>
          {run.open.map((o) => (
            <li key={o}>{capital(told(o))}</li>
          ))}
        </Stack>
      </Panel>
    );
  }
  return (
    <Panel kind="now" title={made ? tr("Second signature") : tr("First signature")}>
      <p className="big">
        {made
          ? tr("{checker} who had no hand in it checks the record and signs.", { checker: capital(article(checker)) })
          : tr("Whoever pulled the bolts signs that they were made as recorded.")}
      </p>
      {mayMake || mayCheck ? (
        <Act
          act={`${made ? tr("Checked") : tr("Made")}: ${joint.judged ? tr("prepare to sign") : tr("sign")}`}
          onClick={() => setAsking(true)}
        />
      ) : (
        <p className="soft">
          {made
            ? tr("You are not the one: {checker} signs next.", { checker: article(checker) })
            : tr("You are not the one: a fitter signs first.")}
        </p>
      )}
      {asking && joint.judged && (
        <Prepare joint={joint} run={run} part={made ? "checked" : "made"} reason={reason} onClose={() => setAsking(false)} />
      )}
      {asking && !joint.judged && (
        <Pin
          title={made ? tr("Sign that {tag} was checked", { tag: joint.tag }) : tr("Sign that {tag} was made", { tag: joint.tag })}
          act={tr("Sign")}
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
            {tr("As {person}. {deviations}", {
              person: me?.person.name,
              deviations:
                run.deviations.length === 0
                  ? tr("No deviations.")
                  : tr("{count} deviations are listed on the record.", { count: run.deviations.length }),
            })}
          </p>
        </Pin>
      )}
    </Panel>
  );
}
