import { Button, Group } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import { useMay } from "../../api/queries";
import type { Joint } from "../../api/types";
import { dateTime } from "../../ui/format";
import { Pin } from "../../ui/Pin";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** Freezes the draft and its recipe's edition as a numbered plan, signed by an engineer. */
export function Issue({ joint, blocked, onGoOn }: { joint: Joint; blocked: boolean; onGoOn: () => void }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  // The run that begins: one identity however often it is sent, so that it is issued once. Undefined: nobody is asked.
  const [begins, setBegins] = useState<string>();
  const { plan, run, draft } = joint;
  const issue = useMutation({
    mutationFn: (v: { pin: string; reason: string }) =>
      take(
        http.POST("/api/joints/{joint}/issue", {
          params: { path: { joint: joint.id } },
          body: { version: draft.version, run: begins, pin: v.pin, ...(v.reason ? { reason: v.reason } : {}) },
        }),
      ),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      setBegins(undefined);
      onGoOn();
    },
  });
  const follows = run && (run.begun || run.standing === "signed");
  const again = plan && !plan.changed;
  return (
    <Group justify="space-between" gap={16} px={2}>
      <span>
        {plan && (
          <>
            <Say
              of="{revision}, issued by {issuedBy}, {issuedAt}. {changed}"
              with={{
                revision: <b>{tr("Plan {revision}", { revision: plan.revision })}</b>,
                issuedBy: plan.issuedBy,
                issuedAt: dateTime(plan.issuedAt),
                changed: plan.changed
                  ? tr("This draft has changed since; the bolts follow the plan.")
                  : run?.standing === "signed"
                    ? tr("Signed. A further plan is for the work that follows.")
                    : tr("It is frozen; a change makes another."),
              }}
            />
          </>
        )}
        {!plan && (engineer ? tr("Once issued, plan and recipe are frozen.") : tr("An engineer issues the plan."))}
      </span>
      {again && (
        <Button color="plan" onClick={onGoOn}>
          {run?.standing === "lay out" ? tr("Prepare") : tr("The steps")}
        </Button>
      )}
      {engineer && (!again || run?.standing === "signed") && (
        <Button
          color="now"
          size="lg"
          disabled={blocked || draft.open.length > 0 || !draft.version}
          onClick={() => setBegins(crypto.randomUUID())}
        >
          {run?.standing === "signed" ? tr("Issue a further plan") : tr("Issue the plan")}
        </Button>
      )}
      {begins && (
        <Pin
          title={tr("Issue plan {revision} of {tag}", { revision: (plan?.revision ?? 0) + 1, tag: joint.tag })}
          act={tr("Issue")}
          reason={follows ? tr("There is work on the plan before. Why is there another?") : undefined}
          busy={issue.isPending}
          error={issue.error}
          onClose={() => setBegins(undefined)}
          onPin={(pin, { reason }) => issue.mutate({ pin, reason })}
        >
          <p>
            {tr("{title}, {nameplate}, by edition {edition} of its recipe. Once issued it cannot be changed; a change makes a new plan.", {
              title: told(draft.recipe.title),
              nameplate: told(draft.nameplate),
              edition: draft.recipe.edition,
            })}
          </p>
        </Pin>
      )}
    </Group>
  );
}
