import { Button } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../../api/client";
import { useMay } from "../../api/queries";
import type { RingJoint } from "../../api/types";
import { dateTime, torque } from "../../ui/format";
import { Pin } from "../../ui/Pin";
import classes from "./layout.module.css";

/** Freezes the sentence as a numbered plan, signed by an engineer. */
export function Issue({ joint, changed, blocked }: { joint: RingJoint; changed: boolean; blocked: boolean }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const { draft, plan, run } = joint;
  const pulled = run?.begun ?? false;
  const issue = useMutation({
    mutationFn: (v: { pin: string; reason: string }) =>
      take(http.POST("/api/joints/{joint}/issue", { params: { path: { joint: joint.id } }, body: { version: draft.version, pin: v.pin, ...(v.reason ? { reason: v.reason } : {}) } })),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      setAsking(false);
      void navigate(`/joint/${j.id}/2`);
    },
  });
  if (plan && !changed) {
    return (
      <div className={classes.issue}>
        <span>
          <b>Plan {plan.revision}</b>, issued by {plan.issuedBy}, {dateTime(plan.issuedAt)}. It is frozen; a change makes plan {plan.revision + 1}.
        </span>
        <Button color="plan" onClick={() => void navigate(`/joint/${joint.id}/2`)}>
          Tool up
        </Button>
      </div>
    );
  }
  const why = !draft.version
    ? "Go through the sentence first; every word can be touched."
    : draft.result.undecided
      ? "Decide about the lubrication first: take the equivalent torque or keep the written one."
      : engineer
        ? ""
        : "An engineer issues the plan.";
  return (
    <div className={classes.issue}>
      <span>
        {plan ? (
          <>
            The bolts follow <b>plan {plan.revision}</b>; this draft is not issued.{" "}
          </>
        ) : (
          <>
            <b>{torque(draft.result.torque)} N·m</b>, not issued yet.{" "}
          </>
        )}
        {why}
      </span>
      {engineer && (
        <Button color="now" size="lg" disabled={blocked || draft.result.undecided || !draft.version} onClick={() => setAsking(true)}>
          Issue the plan
        </Button>
      )}
      <Pin
        opened={asking}
        title={`Issue plan ${(plan?.revision ?? 0) + 1} of ${joint.tag}`}
        act="Issue"
        reason={pulled ? "Bolts were pulled on the plan before. Why is it replaced?" : undefined}
        busy={issue.isPending}
        error={issue.error}
        onClose={() => setAsking(false)}
        onPin={(pin, reason) => issue.mutate({ pin, reason })}
      >
        <p>
          {draft.input.bolts} × {draft.input.thread} to <b className="mono">{torque(draft.result.torque)} N·m</b>, {draft.input.lubrication}. Once issued it cannot be changed; a change makes a new plan.
        </p>
      </Pin>
    </div>
  );
}
