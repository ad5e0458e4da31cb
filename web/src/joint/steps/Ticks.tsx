import type { Step } from "../../api/types";
import classes from "./steps.module.css";
import { told, tr } from "../../words/words";

export interface Ticked {
  item: number;
  text: string;
  part: string;
  kind: Step["ticks"][number]["kind"];
  done: boolean;
  missing: boolean;
  left: boolean;
  /** It may be ticked now. */
  free: boolean;
}

/** The lines of a list as they stand, those that are on their way to the server counted as ticked. */
export function ticked(step: Step, sent: ReadonlySet<number>): Ticked[] {
  let free = true;
  return step.ticks.map((t) => {
    const done = t.done || sent.has(t.item);
    const one = { ...t, done, free: !done && free, missing: t.missing && !done };
    // Parts go one on the other; other lists in any order.
    if (step.does === "place" && !done) free = false;
    return one;
  });
}

const kinds: Record<string, string> = { part: tr("Parts"), tool: tr("Tools"), material: tr("Materials"), wear: tr("Worn") };

interface TicksProps {
  ticks: Ticked[];
  now?: number;
  onTick?: (item: number) => void;
  /** Says that a thing is not there, or not so. */
  onMissing?: (item: number) => void;
  missingWord: string;
}

/** A list that is ticked line by line: what is done, what is next, what is not there. */
export function Ticks({ ticks, now, onTick, onMissing, missingWord }: TicksProps) {
  const groups = [...new Set(ticks.map((t) => t.kind))];
  const list = (of: Ticked[]) => (
    <ul className={classes.ticks} data-many={ticks.length > 8 || undefined}>
      {of.map((t) => {
        const state = t.left ? "left" : t.missing ? "missing" : t.done ? "done" : t.item === now ? "now" : "open";
        return (
          <li key={t.item} data-state={state}>
            <button type="button" className="bare" disabled={!t.free || !onTick} onClick={() => onTick?.(t.item)} data-tick={t.item}>
              <svg viewBox="-12 -12 24 24" width="26" height="26" aria-hidden="true">
                <rect x="-10" y="-10" width="20" height="20" rx="3" />
                {t.done && !t.left && <path d="M-6 0 L-1.5 5 L7 -6" />}
                {(t.missing || t.left) && <path d="M-6 -6 L6 6 M6 -6 L-6 6" />}
              </svg>
              <span>
                {t.part && <b>{told(t.part)}</b>}
                {t.part && t.text ? `, ${told(t.text)}` : told(t.text)}
                {t.missing && <b className={classes.missing}> {missingWord}</b>}
                {t.left && <span className="soft"> {tr("left undone")}</span>}
              </span>
              <span className="visually-hidden">{t.done ? tr("ticked") : t.missing ? missingWord : tr("open")}</span>
            </button>
            {onMissing && t.free && !t.missing && (
              <button
                type="button"
                className={`link ${classes.notThere}`}
                onClick={() => onMissing(t.item)}
                aria-label={`${told(t.part || t.text)}: ${missingWord}`}
              >
                {missingWord}
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
  if (groups.length < 2) return list(ticks);
  return (
    <div className={classes.kit}>
      {groups.map((g) => (
        <section key={g} aria-label={kinds[g]}>
          <h3>{kinds[g]}</h3>
          {list(ticks.filter((t) => t.kind === g))}
        </section>
      ))}
    </div>
  );
}
