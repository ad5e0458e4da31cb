import { Link } from "react-router";
import type { Joint } from "../../api/types";
import { Panel } from "../../ui/Panel";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** Tools of this joint that are held back, and the way to what puts each into service again. */
export function HeldTools({ joint }: { joint: Joint }) {
  return joint.held.map((t) => (
    <Panel key={t.tag} kind="stop" title={tr("{tag} is held back", { tag: t.tag })}>
      <p>{tr("{why}. No bolt is pulled with it until it was checked and found good.", { why: told(t.why) })}</p>
      <p>
        <Say
          of="Take another one. Its check, and what else it touched: {tag}"
          with={{ tag: <Link to={`/crib/${encodeURIComponent(t.tag)}`}>{tr("{tag} in the Crib", { tag: t.tag })}</Link> }}
        />
      </p>
    </Panel>
  ));
}
