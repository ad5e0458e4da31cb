import type { Joint } from "../../api/types";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import classes from "./sign.module.css";

/** The runs on plans before this one, each with its record: they stay as they were. */
export function Before({ joint }: { joint: Joint }) {
  if (joint.before.length === 0) return null;
  return (
    <Panel title="Before this">
      <ol className={`lines ${classes.before}`}>
        {joint.before.map((r) => (
          <li key={r.revision} className="edge" data-edge={r.signedAt && "held"}>
            <span>
              <b>Plan {r.revision}</b>: {r.words}
              <div className="fine">
                {r.signedAt ? `Signed ${dateTime(r.signedAt)}` : `Never signed; issued ${dateTime(r.issuedAt)}`}, {r.entries} entries.{" "}
                {r.reason}
              </div>
            </span>
            <a
              href={`/api/joints/${joint.id}/record/pdf?revision=${r.revision}`}
              download
              aria-label={`Record of plan ${r.revision} as PDF`}
            >
              PDF
            </a>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
