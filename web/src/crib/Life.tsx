import type { CheckFound, ToolCard } from "../api/types";
import { dateTime, number, signed } from "../ui/format";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

/** What happened to a tool, the newest first. */
export function Life({ card: c }: { card: ToolCard }) {
  return (
    <section className={classes.section}>
      <h3>{tr("Its life")}</h3>
      <ol className={`lines ${classes.life}`}>
        {c.life.map((l) => (
          <li key={l.id || l.seq} data-life={l.kind}>
            <span className="fine">{dateTime(l.on)}</span>
            <div>
              <b>{told(l.what)}</b> <span className="soft">{l.by}</span>
              {l.note && <p>{l.note}</p>}
              {l.found && <Found found={l.found} />}
              {l.paper && (
                <a href={`/api/papers/file/${l.paper}`} target="_blank" rel="noreferrer" className="link">
                  {tr("Open the paper")}
                </a>
              )}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What a check found, mark by mark. */
export function Found({ found: f }: { found: CheckFound }) {
  return (
    <>
      <p className={f.holds ? undefined : classes.off}>
        {f.holds ? tr("Good: ") : tr("Not good: ")}
        {told(f.text)}
      </p>
      {f.marks.length > 0 && (
        <table className={classes.found}>
          <thead>
            <tr>
              <th scope="col">{tr("at, {unit}", { unit: f.unit })}</th>
              <th scope="col">{tr("worst, %")}</th>
              <th scope="col">{tr("repeats within, %")}</th>
            </tr>
          </thead>
          <tbody className="mono">
            {f.marks.map((m) => (
              <tr key={m.at}>
                <td>{number(m.at)}</td>
                <td className={m.holds ? undefined : classes.off}>{signed(m.worst)}</td>
                <td>{number(Math.round(m.spread * 100) / 100)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
