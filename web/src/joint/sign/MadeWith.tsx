import { Link } from "react-router";
import type { Run } from "../../api/types";
import { day } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { told, tr } from "../../words/words";

/** The tools that a joint was made with, each with what it made, and the way to its life. */
export function MadeWith({ run }: { run: Run }) {
  if (!run.madeWith || run.madeWith.length === 0) return null;
  return (
    <Panel title={tr("Made with")}>
      <ul className="lines">
        {run.madeWith.map((m) => (
          <li key={m.tool} style={{ padding: "6px 0" }} data-made-with={m.tool}>
            <Link to={`/crib/${encodeURIComponent(m.tool)}`} className="mono link">
              <b>{m.tool}</b>
            </Link>{" "}
            {m.made.map((x) => told(x)).join("; ")}
            {m.due && <span className="soft">{tr(", in calibration to {due}", { due: day(m.due) })}</span>}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
