import { useEffect } from "react";
import { Link, useSearchParams } from "react-router";
import type { DrillKind, DrillProgress } from "../../api/types";
import { InBar } from "../../app/Shell";
import { day } from "../../ui/format";
import { Refusal } from "../../ui/Refusal";
import { tr } from "../../words/words";
import { useDrills } from "../queries";
import { Asked } from "./Asked";
import classes from "./drills.module.css";
import { Go } from "./Go";
import { DRILLS } from "./kinds";
import { Mark } from "./Mark";

/** Drills for hands and eyes: five tasks each, right or wrong with why; when each is due again. */
export function Drills() {
  const [at, setAt] = useSearchParams();
  const drills = useDrills();
  const kind = DRILLS.find((d) => d.kind === at.get("drill"))?.kind;
  const back = at.get("joint") ?? undefined;
  const go = (to?: DrillKind) => setAt({ ...(to ? { drill: to } : {}), ...(back ? { joint: back } : {}) });
  useEffect(() => {
    document.title = tr("{tag} · Dynacor", { tag: tr("Drills") });
  }, []);
  return (
    <main className={classes.drills}>
      <InBar>
        <span className={classes.plate}>
          <Link to="/bench">{tr("Bench")}</Link>
          {kind ? <Link to="/bench/drills">{tr("Drills")}</Link> : <b>{tr("Drills")}</b>}
          {back && <Link to={`/joint/${back}/3`}>{tr("Back to the joint")}</Link>}
        </span>
      </InBar>
      <h1 className="visually-hidden">{tr("Drills")}</h1>
      {kind ? (
        <Go key={kind} kind={kind} joint={back} onEnd={() => go()} />
      ) : (
        <>
          <Refusal error={drills.data ? undefined : drills.error} />
          <ul className={classes.list}>
            {DRILLS.map((d) => {
              const p = drills.data?.drills.find((x) => x.kind === d.kind);
              return (
                <li key={d.kind}>
                  <button
                    type="button"
                    className={classes.drill}
                    onClick={() => go(d.kind)}
                    data-drill={d.kind}
                    data-over={p?.over || undefined}
                  >
                    <Mark kind={d.kind} />
                    <span className={classes.words}>
                      <b>{d.name}</b>
                      <span>{d.what}</span>
                    </span>
                    {p && <Progress of={p} />}
                  </button>
                </li>
              );
            })}
          </ul>
          <p className={classes.alone}>
            {tr("How you do is seen by you alone. Where a drill is asked for, that you passed it stands among your qualifications.")}
          </p>
          {drills.data && <Asked drills={drills.data} />}
        </>
      )}
    </main>
  );
}

/** The latest goes, when it is due again, and for how long it counts where it is asked for. */
function Progress({ of: p }: { of: DrillProgress }) {
  return (
    <span className={classes.progress}>
      {p.went.length > 0 && (
        <span className={classes.went}>
          {p.went.map((w) => (
            <i key={w.at} data-came={w.passed ? "right" : "wrong"}>
              {tr("{right} of {all}", { right: w.right, all: w.of })} {w.passed ? "✓" : "✗"}
            </i>
          ))}
        </span>
      )}
      <span data-due={p.due}>
        {p.due === undefined ? tr("not done yet") : p.over ? tr("due today") : tr("again on {day}", { day: day(p.due) })}
      </span>
      {p.asked && (
        <span data-until={p.until ?? ""} className={p.counts ? classes.counts : classes.lacks}>
          {!p.counts
            ? tr("asked for, and not passed")
            : p.until
              ? tr("asked for; it counts until {day}", { day: day(p.until) })
              : tr("asked for, and passed")}
        </span>
      )}
    </span>
  );
}
