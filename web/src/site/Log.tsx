import type { SiteRoom } from "../api/types";
import { dateTime } from "../ui/format";
import classes from "./site.module.css";

/** What was changed, by whom and when, the newest first. */
export function Log({ entries }: { entries: SiteRoom["log"] }) {
  if (entries.length === 0) return <p className="soft">Nothing yet.</p>;
  return (
    <ol className={classes.log}>
      {entries.map((e) => (
        <li key={`${e.at} ${e.kind} ${e.subject} ${e.words}`}>
          <b>{e.subject}</b>: {e.words}
          <small>
            {e.by || "the command line"}, {dateTime(e.at)}
          </small>
        </li>
      ))}
    </ol>
  );
}
