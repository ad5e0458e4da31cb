import type { Since } from "../api/queries";
import { dateTime } from "../ui/format";
import classes from "./along.module.css";

interface KeptSinceProps extends Since {
  at: string;
  /** What is done is judged here, by the same rules. */
  judged: boolean;
}

/** Says that a joint is shown as it was taken along, because the server cannot be reached. */
export function KeptSince({ at, acts, gap, judged }: KeptSinceProps) {
  const made = acts.length === 1 ? "One entry made here since is counted." : `${acts.length} entries made here since are counted.`;
  const kept = judged ? "What you do is judged here, kept, and sent later." : "What you do is kept here and sent later.";
  return (
    <p className={classes.kept} data-kept role="status">
      <b>Without the server, as taken along {dateTime(at)}.</b>{" "}
      {gap
        ? "Others went on at this joint after that: which bolt is next, only the server knows. Go where there is a network."
        : `${acts.length > 0 ? `${made} ` : ""}${kept}`}
    </p>
  );
}
