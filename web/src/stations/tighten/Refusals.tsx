import { Button } from "@mantine/core";
import type { Waiting } from "../../api/outbox";
import type { AnyRun } from "../../api/types";
import { useOutbox } from "../../app/context";
import { Refusal } from "../../ui/Refusal";
import classes from "./tighten.module.css";

/** Acts the server would not take, and the question each leaves. */
export function Refusals({ acts, run }: { acts: readonly Waiting[]; run: AnyRun }) {
  const outbox = useOutbox();
  const w = acts.find((a) => a.run === run.id && a.problem);
  if (!w?.problem || w.no === undefined) return null;
  const far = w.problem.code === "far-reading";
  return (
    <div className={classes.refusals}>
      <Refusal problem={w.problem} />
      <div className={classes.answers}>
        {far && (
          <Button color="stop" variant="outline" onClick={() => void outbox.settle(w.no!, { ...w.entry.content, confirmed: true })}>
            It is right, keep it
          </Button>
        )}
        <Button color="plan" onClick={() => void outbox.takeBack(w.no!)}>
          {far ? "Read it again" : "Take it back"}
        </Button>
      </div>
    </div>
  );
}
