import type { Joint } from "../../api/types";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import classes from "./sign.module.css";
import { told, tr } from "../../words/words";

/** The runs on plans before this one, each with its record: they stay as they were. */
export function Before({ joint }: { joint: Joint }) {
  if (joint.before.length === 0) return null;
  return (
    <Panel title={tr("Before this")}>
      <ol className={`lines ${classes.before}`}>
        {joint.before.map((r) => (
          <li key={r.revision} className="edge" data-edge={r.signedAt && "held"}>
            <span>
              <b>{tr("Plan {revision}", { revision: r.revision })}</b>
              {": "}
              {told(r.words)}
              <div className="fine">
                {tr("{signedAt}, {count} entries. {reason}", {
                  signedAt: r.signedAt
                    ? tr("Signed {signedAt}", { signedAt: dateTime(r.signedAt) })
                    : tr("Never signed; issued {issuedAt}", { issuedAt: dateTime(r.issuedAt) }),
                  count: r.entries,
                  reason: told(r.reason),
                })}
              </div>
            </span>
            <a
              href={`/api/joints/${joint.id}/record/pdf?revision=${r.revision}`}
              download
              aria-label={tr("Record of plan {revision} as PDF", { revision: r.revision })}
            >
              {tr("PDF")}
            </a>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
