import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { http, problemOf, take } from "../../api/client";
import type { PlanInput, Problem, RingJoint } from "../../api/types";

export type Change = Partial<PlanInput>;

/**
 * A joint's sentence while it is changed. What was typed stays, also when it is refused; the answer beside it is the
 * last one that the server gave. Changes are sent one after the other.
 */
export function useDraft(joint: RingJoint) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<PlanInput>();
  const [problem, setProblem] = useState<Problem>();
  const [saving, setSaving] = useState(false);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const newest = useRef<PlanInput>(undefined);
  const input = typed ?? joint.draft.input;

  async function save(next: PlanInput) {
    if (newest.current !== next) return; // overtaken by a later change
    const current = queries.getQueryData<RingJoint>(["joint", joint.id]) ?? joint;
    try {
      const draft = await take(http.PUT("/api/joints/{joint}/draft", { params: { path: { joint: joint.id } }, body: { version: current.draft.version, input: next } }));
      queries.setQueryData<RingJoint>(["joint", joint.id], (j) => (j ? { ...j, draft } : j));
      if (newest.current === next) {
        setProblem(undefined);
        setTyped(undefined);
      }
    } catch (e) {
      if (newest.current === next) setProblem(problemOf(e) ?? { type: "", title: "", status: 0, code: "unreachable", detail: "The server cannot be reached; this is not stored yet.", way: "Change it again when the connection is back." });
    } finally {
      if (newest.current === next) setSaving(false);
    }
  }

  return {
    input,
    result: joint.draft.result,
    version: joint.draft.version,
    problem,
    saving,
    change(c: Change) {
      const next = { ...(newest.current ?? input), ...c };
      newest.current = next;
      setTyped(next);
      setSaving(true);
      queue.current = queue.current.then(() => save(next));
    },
    takeTheirs() {
      newest.current = undefined;
      setTyped(undefined);
      setProblem(undefined);
      void queries.invalidateQueries({ queryKey: ["joint", joint.id] });
    },
  };
}

export type DraftState = ReturnType<typeof useDraft>;
