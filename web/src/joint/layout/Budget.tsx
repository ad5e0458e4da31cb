import type { Group } from "../../api/types";
import classes from "./layout.module.css";
import { told, tr } from "../../words/words";

/** What makes the likely band as wide as it is, by part. */
export function Budget({ parts }: { parts: Group["budget"] }) {
  if (parts.length === 0) return null;
  const wide = parts.filter((p) => p.share >= 0.005);
  return (
    <div data-budget>
      <div className={classes.budget} aria-hidden>
        {wide.map((p) => (
          <span key={p.name} style={{ flexGrow: p.share }} />
        ))}
      </div>
      <p className="fine">
        {tr("of the likely band: {parts}", { parts: wide.map((p) => `${told(p.name)} ${Math.round(p.share * 100)} %`).join(", ") })}
      </p>
    </div>
  );
}
