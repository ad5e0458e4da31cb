import { Button } from "@mantine/core";
import { useState } from "react";
import type { DrillJudged, DrillTask } from "../../api/types";
import { number, readNumber } from "../../ui/format";
import { tr } from "../../words/words";
import classes from "./drills.module.css";

interface ConvertProps {
  task: NonNullable<DrillTask["convert"]>;
  judged?: DrillJudged;
  onAnswer: (v: number) => void;
}

/** A value in one unit; what is it in the other? */
export function Convert({ task: c, judged, onAnswer }: ConvertProps) {
  const [typed, setTyped] = useState("");
  const value = readNumber(typed);
  return (
    <>
      <h2>{tr("What is it in {unit}?", { unit: c.to })}</h2>
      <p className={classes.large}>
        <span className="mono">{number(c.value)}</span> {c.from}
      </p>
      <form
        className={classes.answer}
        onSubmit={(e) => {
          e.preventDefault();
          if (value !== undefined) onAnswer(value);
        }}
      >
        <label htmlFor="drill-answer">{tr("To one percent, in {unit}", { unit: c.to })}</label>
        <input
          id="drill-answer"
          inputMode="decimal"
          autoComplete="off"
          autoFocus
          value={typed}
          readOnly={judged !== undefined}
          onChange={(e) => setTyped(e.target.value)}
        />
        <Button type="submit" size="lg" disabled={value === undefined || judged !== undefined}>
          {tr("That is it")}
        </Button>
      </form>
    </>
  );
}
