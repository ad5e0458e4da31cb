import { skipToken, useQuery } from "@tanstack/react-query";
import type { Run, Step, Verdict } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import classes from "./steps.module.css";

/**
 * Which way a ring leans, on its drawing: an arrow from the high side to the low for a dial, with how far to shift; a
 * wedge at the open side for gaps. It is drawn from the server's answer.
 */
export function Lean({ run, step, typed }: { run: Run; step: Step; typed: string[] }) {
  // The card asks; here it is only shown as it comes.
  const values = typed.map((t) => readNumber(t));
  const { data: verdict } = useQuery<Verdict>({ queryKey: ["readings", run.id, run.entries, step.id, values, 0], queryFn: skipToken });
  const high = verdict?.answers.find((a) => a.name === "high at");
  const open = verdict?.answers.find((a) => a.name === "open at");
  const shift = verdict?.answers.find((a) => a.name === "shift");
  const at = high ?? open;
  if (!at) return null;
  const turn = `rotate(${at.value})`;
  if (open) {
    return (
      <g className={classes.lean} transform={turn}>
        <path d="M0 30 L-17 -38 A42 42 0 0 1 17 -38 Z" data-open />
      </g>
    );
  }
  return (
    <g className={classes.lean}>
      <g transform={turn}>
        <path d="M0 -34 V26 M-9 14 L0 28 L9 14" />
        <path d="M-10 -38 H10" />
      </g>
      {shift && (
        <text x="0" y="48" fontSize="9" fontWeight="700" textAnchor="middle">
          {number(shift.value)} {shift.unit}
        </text>
      )}
    </g>
  );
}
