import type { ComponentProps, ReactNode } from "react";
import classes from "./ui.module.css";

interface ActProps extends ComponentProps<"button"> {
  act: ReactNode;
  hint?: ReactNode;
  kind?: "held" | "mind" | "stop" | "plan" | "now";
}

/** The large act of a screen: what is done, and by which key. */
export function Act({ act, hint, kind, ...button }: ActProps) {
  return (
    <button type="button" className={classes.act} data-kind={kind} {...button}>
      <b>{act}</b>
      {hint && <span>{hint}</span>}
    </button>
  );
}
