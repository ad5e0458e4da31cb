import { Button, SimpleGrid } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../../api/client";
import { useMay } from "../../api/queries";
import type { Joint } from "../../api/types";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import { told, tr } from "../../words/words";

/** The work that may follow on a signed joint: an engineer issues its plan, and its recipe leads. */
export function WhatFollows({ joint }: { joint: Joint }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  const navigate = useNavigate();
  // What is asked for, and the run that begins: one identity however often it is sent, so that it is issued once.
  const [{ work, run }, setAsked] = useState({ work: "", run: "" });
  const setWork = (chosen: string) => setAsked({ work: chosen, run: crypto.randomUUID() });
  const follow = useMutation({
    mutationFn: (v: { pin: string; reason: string }) =>
      take(
        http.POST("/api/joints/{joint}/follow", {
          params: { path: { joint: joint.id } },
          body: { work, run, pin: v.pin, reason: v.reason },
        }),
      ),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      setWork("");
      void navigate(`/joint/${j.id}/1`);
    },
  });
  if (!engineer || joint.follows.length === 0) return null;
  return (
    <Panel title={tr("What follows")}>
      <SimpleGrid cols={2} spacing={10} mb={10}>
        {joint.follows.map((w) => (
          <Button key={w.work} variant="default" mih={64} onClick={() => setWork(w.work)} data-follow={w.work}>
            {told(w.act)}
          </Button>
        ))}
      </SimpleGrid>
      <p className="soft">{tr("Each is a plan of its own. This record stays as it is.")}</p>
      {work && (
        <Pin
          title={tr("Issue a further plan of {tag}: {work}", { tag: joint.tag, work: told(work) })}
          act={tr("Issue")}
          reason={tr("Why is there more work on it?")}
          busy={follow.isPending}
          error={follow.error}
          onClose={() => setWork("")}
          onPin={(pin, { reason }) => follow.mutate({ pin, reason })}
        >
          <p>{told(joint.follows.find((w) => w.work === work)?.words)}</p>
        </Pin>
      )}
    </Panel>
  );
}
