import { tag } from "../words/locale";
import { Link } from "react-router";
import { useMay } from "../api/queries";
import type { ToolCard, Touch } from "../api/types";
import { AnswerDoubt } from "../joint/doubts/AnswerDoubt";
import { day } from "../ui/format";
import { useFreshCrib } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

const short = new Intl.DateTimeFormat(tag, { day: "numeric", month: "short" });

/** The joints that a tool had a hand in since it was good, and what became of each where it is in doubt. */
export function Touched({ card: c }: { card: ToolCard }) {
  const engineer = useMay("engineer");
  if (c.touched.length === 0) return null;
  const open = c.touched.filter((t) => t.state === "waits" || t.state === "sample" || t.state === "again").length;
  return (
    <section className={classes.section} data-recall={open}>
      <h3>
        {c.since ? tr("What it touched since its last good check, {day}", { day: day(c.since.slice(0, 10)) }) : tr("What it touched")}
        {open > 0 && <b className={classes.open}> {tr("· {open} open", { open })}</b>}
      </h3>
      <ul className="lines">
        {c.touched.map((t) => (
          <One key={t.run} touch={t} tool={c.tool.tag} engineer={engineer} />
        ))}
      </ul>
      {c.count > c.touched.length && <p className="soft">{tr("and {n} more", { n: c.count - c.touched.length })}</p>}
    </section>
  );
}

function One({ touch: t, tool, engineer }: { touch: Touch; tool: string; engineer: boolean }) {
  const fresh = useFreshCrib();
  const waits = t.state === "waits";
  return (
    <li className={classes.touch} data-joint={t.tag} data-state={t.state}>
      <span>
        <Link to={`/joint/${t.joint}`} className="mono">
          <b>{t.tag}</b>
        </Link>
      </span>
      <span className="fine">{short.format(new Date(t.last))}</span>
      <p>
        {t.made.map((m) => told(m)).join("; ")}
        {t.signed && tr(", signed")}
      </p>
      {t.words && (
        <p className={waits ? classes.open : t.state === "sample" || t.state === "again" ? classes.minds : "soft"}>{told(t.words)}</p>
      )}
      {engineer && (waits || t.state === "sample" || t.state === "again") && (
        <div className={classes.answer}>
          <AnswerDoubt run={t.run} tool={tool} tag={t.tag} onAnswered={() => fresh()} />
        </div>
      )}
    </li>
  );
}
