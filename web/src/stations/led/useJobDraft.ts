import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { http, problemOf, take } from "../../api/client";
import type { Joint, JobBolts, JobInput, LedJoint, Problem } from "../../api/types";

/** What could not be sent; it is not stored yet. */
const unreachable: Problem = { type: "", title: "", status: 0, code: "unreachable", detail: "The server cannot be reached; this is not stored yet.", way: "Change it again when the connection is back." };

/**
 * The draft of a joint that a recipe leads, while it is changed. What was typed stays, also when it is refused; changes
 * are sent one after the other.
 */
export function useJobDraft(joint: LedJoint) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<JobInput>();
  const [problem, setProblem] = useState<Problem>();
  const [saving, setSaving] = useState(false);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const newest = useRef<JobInput>(undefined);
  const input = typed ?? joint.job.input;

  async function save(next: JobInput) {
    if (newest.current !== next) return; // overtaken by a later change
    const current = (queries.getQueryData<Joint>(["joint", joint.id]) ?? joint) as LedJoint;
    try {
      const answer = await take(http.PUT("/api/joints/{joint}/job", { params: { path: { joint: joint.id } }, body: { version: current.job.version, input: next } }));
      queries.setQueryData<Joint>(["joint", joint.id], answer);
      if (newest.current === next) {
        setProblem(undefined);
        setTyped(undefined);
      }
    } catch (e) {
      if (newest.current === next) setProblem(problemOf(e) ?? unreachable);
    } finally {
      if (newest.current === next) setSaving(false);
    }
  }

  function change(c: Partial<JobInput>) {
    const next = { ...(newest.current ?? input), ...c };
    newest.current = next;
    setTyped(next);
    setSaving(true);
    queue.current = queue.current.then(() => save(next));
  }

  return {
    input,
    job: joint.job,
    problem,
    saving,
    change,
    changeGroup(group: string, c: JobBolts) {
      const groups = (newest.current ?? input).groups;
      change({ groups: { ...groups, [group]: { ...groups[group], ...c } } });
    },
    takeTheirs() {
      newest.current = undefined;
      setTyped(undefined);
      setProblem(undefined);
      void queries.invalidateQueries({ queryKey: ["joint", joint.id] });
    },
  };
}

export type JobDraft = ReturnType<typeof useJobDraft>;
