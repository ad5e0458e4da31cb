import { Button } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../../api/client";
import { useMay } from "../../api/queries";
import type { Joint } from "../../api/types";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import classes from "./sign.module.css";

const words: Record<string, string> = {
  "re-torque": "Its recipe leads round at the value it was made to, cold and without pressure, until nothing moves.",
  loosen: "Its recipe leads back a quarter turn all round in the order it was made in, then off by hand.",
};

/** The work that may follow on a signed flange: an engineer issues its plan, and its recipe leads. */
export function WhatFollows({ joint }: { joint: Joint }) {
  const engineer = useMay("engineer");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [work, setWork] = useState("");
  const follow = useMutation({
    mutationFn: (v: { pin: string; reason: string }) => take(http.POST("/api/joints/{joint}/follow", { params: { path: { joint: joint.id } }, body: { work, pin: v.pin, reason: v.reason } })),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      setWork("");
      void navigate(`/joint/${j.id}/1`);
    },
  });
  if (!engineer || joint.follows.length === 0) return null;
  return (
    <Panel title="What follows">
      <div className={classes.follows}>
        {joint.follows.map((w) => (
          <Button key={w} variant="default" onClick={() => setWork(w)} data-follow={w}>
            {w === "re-torque" ? "Turn it to its torque again" : w === "loosen" ? "Loosen it" : w}
          </Button>
        ))}
      </div>
      <p className="soft">Each is a plan of its own. This record stays as it is.</p>
      <Pin
        opened={work !== ""}
        title={`Issue a further plan of ${joint.tag}: ${work}`}
        act="Issue"
        reason="Why is there more work on it?"
        busy={follow.isPending}
        error={follow.error}
        onClose={() => setWork("")}
        onPin={(pin, reason) => follow.mutate({ pin, reason })}
      >
        <p>{words[work]}</p>
      </Pin>
    </Panel>
  );
}
