import { Button } from "@mantine/core";
import { useState } from "react";
import { Refused } from "../../api/client";
import { useSession } from "../../api/queries";
import type { Joint, Run } from "../../api/types";
import { useWatched } from "../../app/context";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import { capital } from "../words";
import classes from "./sign.module.css";

/** What signing needs, and the act of it. */
export function Signing({ joint, run }: { joint: Joint; run: Run }) {
  const me = useSession();
  const [asking, setAsking] = useState(false);
  const { checker } = run;
  const made = run.signatures.some((s) => s.part === "made");
  const mayMake = !made && run.mayMake;
  const mayCheck = made && run.mayCheck;
  const sign = useWatched(joint.id, run.id, () => setAsking(false));
  if (run.standing === "signed") {
    return (
      <Panel kind="held" title="Signed">
        <p className={classes.big}>Made and checked. Nothing can be added to this record.</p>
      </Panel>
    );
  }
  if (run.open.length > 0) {
    return (
      <Panel kind="mind" title="Still open">
        <ul className={classes.open}>
          {run.open.map((o) => (
            <li key={o}>{o}</li>
          ))}
        </ul>
      </Panel>
    );
  }
  return (
    <Panel kind="now" title={made ? "Second signature" : "First signature"}>
      <p className={classes.big}>
        {made
          ? `${capital(article(checker))} who had no hand in it checks the record and signs.`
          : "Whoever pulled the bolts signs that they were made as recorded."}
      </p>
      {mayMake || mayCheck ? (
        <Button color="now" size="lg" fullWidth className={classes.act} onClick={() => setAsking(true)}>
          {made ? "Checked: sign" : "Made: sign"}
        </Button>
      ) : (
        <p className="soft">
          {made ? `You are not the one: ${article(checker)} signs next.` : "You are not the one: a fitter signs first."}
        </p>
      )}
      <Pin
        opened={asking}
        title={made ? `Sign that ${joint.tag} was checked` : `Sign that ${joint.tag} was made`}
        act="Sign"
        reason={made && run.outside ? "Something is outside its limit or was left undone. Why is it accepted?" : undefined}
        busy={sign.busy}
        error={sign.problem && new Refused(sign.problem)}
        unsent={sign.unsent}
        onClose={() => {
          sign.takeBack();
          setAsking(false);
        }}
        onPin={(pin, reason) => sign.send({ kind: "signature", part: made ? "checked" : "made", ...(reason ? { reason } : {}) }, { pin })}
      >
        <p>
          As {me?.person.name}.{" "}
          {run.deviations.length === 0 ? "No deviations." : `${run.deviations.length} deviations are listed on the record.`}
        </p>
      </Pin>
    </Panel>
  );
}

const article = (who: string) => `${/^[aeiou]/.test(who) ? "an" : "a"} ${who}`;
