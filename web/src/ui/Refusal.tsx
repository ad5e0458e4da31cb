import { problemOf } from "../api/client";
import type { Problem } from "../api/types";
import classes from "./ui.module.css";
import { told, tr } from "../words/words";

export interface RefusalProps {
  problem?: Problem;
  error?: unknown;
}

/** What was refused and the way out, in the server's words; nothing where nothing was. */
export function Refusal({ problem, error }: RefusalProps) {
  const p = problem ?? problemOf(error);
  if (!p && !error) return null;
  return (
    <div className={classes.refusal} role="alert">
      <span>
        {p ? told(p.detail) : tr("The server cannot be reached. Nothing is lost; try again.")}{" "}
        {p?.way && <span className="soft">{told(p.way)}</span>}
      </span>
    </div>
  );
}
