import { Link } from "react-router";
import type { Joint } from "../../api/types";
import { Panel } from "../../ui/Panel";

/** Tools of this joint that are held back, and the way to what puts each into service again. */
export function HeldTools({ joint }: { joint: Joint }) {
  return joint.held.map((t) => (
    <Panel key={t.tag} kind="stop" title={`${t.tag} is held back`}>
      <p>{t.why}. No bolt is pulled with it until it was checked and found good.</p>
      <p>
        Take another one. Its check, and what else it touched: <Link to={`/crib/${encodeURIComponent(t.tag)}`}>{t.tag} in the Crib</Link>
      </p>
    </Panel>
  ));
}
