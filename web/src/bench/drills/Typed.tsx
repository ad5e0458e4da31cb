import { Button } from "@mantine/core";
import { useState } from "react";
import type { DrillJudged } from "../../api/types";
import { readNumber } from "../../ui/format";
import classes from "./drills.module.css";

interface TypedProps {
  label: string;
  act: string;
  judged?: DrillJudged;
  onValue: (v: number) => void;
  whole?: boolean;
}

/** A number that is typed, large. */
export function Typed({ label, act, judged, onValue, whole }: TypedProps) {
  const [typed, setTyped] = useState("");
  const value = readNumber(typed);
  return (
    <form
      className={classes.answer}
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== undefined) onValue(value);
      }}
    >
      <label htmlFor="drill-answer">{label}</label>
      <input
        id="drill-answer"
        inputMode={whole ? "numeric" : "decimal"}
        autoComplete="off"
        autoFocus
        value={typed}
        readOnly={judged !== undefined}
        onChange={(e) => setTyped(e.target.value)}
      />
      <Button type="submit" size="lg" disabled={value === undefined || judged !== undefined}>
        {act}
      </Button>
    </form>
  );
}
