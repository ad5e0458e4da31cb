import type { Since } from "../api/queries";
import { dateTime } from "../ui/format";
import classes from "./along.module.css";
import { tr } from "../words/words";

interface KeptSinceProps extends Since {
  at: string;
  /** What is done is judged here, by the same rules. */
  judged: boolean;
}

/** Says that a joint is shown as it was taken along, because the server cannot be reached. */
export function KeptSince({ at, acts, gap, judged }: KeptSinceProps) {
  const made = tr("{count} entries made here since are counted.", { count: acts.length });
  const kept = judged ? tr("What you do is judged here, kept, and sent later.") : tr("What you do is kept here and sent later.");
  return (
    <p className={classes.kept} data-kept role="status">
      <b>{tr("Without the server, as taken along {at}.", { at: dateTime(at) })}</b>{" "}
      {gap
        ? tr("Others went on at this joint after that: which bolt is next, only the server knows. Go where there is a network.")
        : `${acts.length > 0 ? `${made} ` : ""}${kept}`}
    </p>
  );
}
