import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { http, problemOf, take } from "../../api/client";
import type { Bolts, Joint, JointInput, Problem } from "../../api/types";
import { unreachable } from "../../api/unreachable";

/**
 * A joint's draft while it is changed. What was typed stays, also when it is refused; changes
 * are sent one after the other.
 */
export function useDraft(joint: Joint) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<JointInput>();
  const [problem, setProblem] = useState<Problem>();
  const [saving, setSaving] = useState(false);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const newest = useRef<JointInput>(undefined);
  const input = typed ?? joint.draft.input;

  async function save(next: JointInput) {
    if (newest.current !== next) return; // overtaken by a later change
    const current = queries.getQueryData<Joint>(["joint", joint.id]) ?? joint;
    try {
      const answer = await take(
        http.PUT("/api/joints/{joint}/draft", {
          params: { path: { joint: joint.id } },
          body: { version: current.draft.version, input: next },
        }),
      );
      queries.setQueryData<Joint>(["joint", joint.id], answer);
      if (newest.current === next) {
        setProblem(undefined);
        setTyped(undefined);
      }
    } catch (e) {
      if (newest.current === next) setProblem(problemOf(e) ?? unreachable());
    } finally {
      if (newest.current === next) setSaving(false);
    }
  }

  function change(c: Partial<JointInput>) {
    const next = { ...(newest.current ?? input), ...c };
    newest.current = next;
    setTyped(next);
    setSaving(true);
    queue.current = queue.current.then(() => save(next));
  }

  return {
    input,
    draft: joint.draft,
    issued: joint.plan,
    problem,
    saving,
    change,
    changeGroup(group: string, c: Bolts) {
      const groups = (newest.current ?? input).groups;
      change({ groups: { ...groups, [group]: { ...groups[group], ...c } } });
    },
    /** The engineer's reason for a row that does not hold. */
    giveReason(row: string, reason: string) {
      const { [row]: _, ...rest } = (newest.current ?? input).reasons ?? {};
      change({ reasons: reason ? { ...rest, [row]: reason } : rest });
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
