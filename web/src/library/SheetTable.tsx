import type { Recipe } from "../api/types";
import classes from "./library.module.css";
import { told, tr } from "../words/words";

/** The maker's sheet of a recipe: what it gives for each type and size. */
export function SheetTable({ sheet }: { sheet: Recipe["sheet"] }) {
  if (sheet.rows.length === 0) return null;
  const wheres = sheet.rows.some((r) => r[2]);
  const shown = (_: string, i: number) => i !== 2 || wheres;
  return (
    <section className={classes.station}>
      <h2>{tr("The maker’s sheet")}</h2>
      <p className="soft">{told(sheet.title)}</p>
      {/* Wider than its column it scrolls, by keys too. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <table className={classes.table} tabIndex={0} aria-label={tr("The maker’s sheet")}>
        <thead>
          <tr>
            {sheet.head.filter(shown).map((h) => (
              <th key={h}>{told(h)}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.rows.map((r) => (
            <tr key={r.join("|")}>
              {r.filter(shown).map((c, i) => (
                <td key={`${sheet.head[i]}`} className={i > 1 ? "mono" : undefined}>
                  {told(c)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
