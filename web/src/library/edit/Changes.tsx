import type { RecipeChange } from "../../api/types";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

const signs: Record<RecipeChange["what"], string> = { added: "+", gone: "–", changed: "≠", moved: "⇅" };

/** In what two editions differ: each thing by its name, as it was and as it is. */
export function Changes({ changes, none }: { changes: RecipeChange[]; none: string }) {
  if (changes.length === 0) return <p className="soft">{none}</p>;
  return (
    <ol className={classes.changes}>
      {changes.map((c) => (
        <li key={c.where + c.what} data-what={c.what}>
          <span aria-hidden="true" className={classes.sign}>
            {signs[c.what]}
          </span>
          <div>
            <p>
              <b>{told(c.where)}</b> <span className="soft">{c.what}</span>
            </p>
            {c.was && (
              <p className={classes.was}>
                <span className="fine">{tr("was")}</span> {c.was}
              </p>
            )}
            {c.is && (
              <p>
                <span className="fine">{tr("is")}</span> {c.is}
              </p>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}
