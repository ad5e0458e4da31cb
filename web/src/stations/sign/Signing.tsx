import { Button } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { sendEntry } from "../../api/client";
import { keepRun, useSession } from "../../api/queries";
import type { AnyRun, Joint } from "../../api/types";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import classes from "./sign.module.css";

interface SigningProps {
  joint: Joint;
  run: AnyRun;
  /** Who checks it. */
  checker: string;
  /** Whoever looks may sign that it was made. */
  mayMake: boolean;
}

/** What signing needs, and the act of it. */
export function Signing({ joint, run, checker, mayMake: maker }: SigningProps) {
  const me = useSession();
  const queries = useQueryClient();
  const [asking, setAsking] = useState(false);
  const made = run.signatures.some((s) => s.part === "made");
  const part = made ? "checked" : "made";
  const mayMake = !made && maker;
  const mayCheck = made && run.mayCheck;
  const sign = useMutation({
    mutationFn: (v: { pin: string; reason: string }) =>
      sendEntry(run.id, "steps" in run, { id: crypto.randomUUID(), kind: "signature", at: new Date().toISOString(), pin: v.pin, content: { part, ...(v.reason ? { reason: v.reason } : {}) } }),
    onSuccess: (r) => {
      keepRun(queries, joint.id, r);
      setAsking(false);
    },
  });
  if (run.stage === "signed") {
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
      <p className={classes.big}>{made ? `${/^[aeiou]/.test(checker) ? "An" : "A"} ${checker} who pulled no bolt here checks the record and signs.` : "Whoever pulled the bolts signs that they were made as recorded."}</p>
      {mayMake || mayCheck ? (
        <Button color="now" size="lg" fullWidth className={classes.act} onClick={() => setAsking(true)}>
          {made ? "Checked: sign" : "Made: sign"}
        </Button>
      ) : (
        <p className="soft">{made ? `You are not the one: ${/^[aeiou]/.test(checker) ? "an" : "a"} ${checker} signs next.` : "You are not the one: a fitter signs first."}</p>
      )}
      <Pin
        opened={asking}
        title={made ? `Sign that ${joint.tag} was checked` : `Sign that ${joint.tag} was made`}
        act="Sign"
        reason={made && run.outside ? "Something is outside its limit or was left undone. Why is it accepted?" : undefined}
        busy={sign.isPending}
        error={sign.error}
        onClose={() => setAsking(false)}
        onPin={(pin, reason) => sign.mutate({ pin, reason })}
      >
        <p>
          As {me?.person.name}. {run.deviations.length === 0 ? "No deviations." : `${run.deviations.length} deviations are listed on the record.`}
        </p>
      </Pin>
    </Panel>
  );
}
