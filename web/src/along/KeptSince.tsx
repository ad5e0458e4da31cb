import type { Since } from "../api/queries";
import { dateTime } from "../ui/format";
import classes from "./along.module.css";

/** Says that a joint is shown as it was taken along, because the server cannot be reached. */
export function KeptSince({ at, acts, gap }: Since & { at: string }) {
  const made = acts.length === 1 ? "One entry made here since is counted." : `${acts.length} entries made here since are counted.`;
  return (
    <p className={classes.kept} data-kept role="status">
      <b>Without the server, as taken along {dateTime(at)}.</b>{" "}
      {gap
        ? "Others went on at this joint after that: which bolt is next, only the server knows. Go where there is a network."
        : `${acts.length > 0 ? `${made} ` : ""}What you do is kept here and sent later.`}
    </p>
  );
}
