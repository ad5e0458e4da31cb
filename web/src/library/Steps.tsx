import type { Recipe } from "../api/types";
import { CautionSign } from "../ui/CautionSign";
import { Only } from "./Only";
import classes from "./library.module.css";

/** The steps of a recipe at one station, in order. */
export function Steps({ station }: { station: Recipe["stations"][number] }) {
  if (station.steps.length === 0) return null;
  return (
    <section className={classes.station}>
      <h2>{station.name}</h2>
      <ol>
        {station.steps.map((s) => (
          <li key={s.id} data-free={s.free || undefined}>
            <span className={classes.does}>{s.does}</span>
            <div className={classes.step}>
              <p>
                {s.text}
                <Only when={s.when} />
                {s.free && <span className={classes.only}>in any order</span>}
              </p>
              {s.limit && (
                <p className={classes.limit}>
                  {s.limit}
                  {s.places > 1 && `, at ${s.places} places`}
                </p>
              )}
              {s.items.length > 0 && (
                <ol className={classes.items}>
                  {s.items.map((i) => (
                    <li key={i}>{i}</li>
                  ))}
                </ol>
              )}
              {s.cautions.map((c) => (
                <CautionSign key={c.text} caution={c} small />
              ))}
              {s.by && <p className={classes.by}>By a {s.by}</p>}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}
