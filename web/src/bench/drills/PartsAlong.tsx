import { useState } from "react";
import type { DrillTask } from "../../api/types";
import { useKeys } from "../../app/keys";
import { PartDrawing } from "../../drawing/Stack";
import { Act } from "../../ui/Act";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";

/** Parts that lie mixed: they are laid along their axis, one after the other. */
export function PartsAlong({ task: p, of, judged, onAnswer }: TaskProps<NonNullable<DrillTask["parts"]>>) {
  const [laid, setLaid] = useState<string[]>([]);
  const stack = of.material.stacks.find((s) => s.recipe === p.recipe)?.stack;
  const drawn = (name: string) => {
    const part = stack?.parts.find((x) => x.name === name);
    return part && <PartDrawing part={part} half={stack!.half} />;
  };
  const lay = (name: string) => !judged && setLaid((l) => (l.includes(name) ? l : [...l, name]));
  const back = (name?: string) => !judged && setLaid((l) => l.filter((x) => x !== (name ?? l.at(-1))));
  const all = laid.length === p.parts.length;
  const done = () => all && onAnswer({ value: 0, order: laid });
  useKeys(
    judged
      ? {}
      : {
          ...Object.fromEntries(p.parts.map((name, i) => [String(i + 1), () => lay(name)])),
          Backspace: () => back(),
          ...(all ? { " ": done } : {}),
        },
  );
  return (
    <>
      <h2>
        {p.before
          ? tr("{title}: what comes behind “{part}”?", { title: told(p.title), part: told(p.before) })
          : tr("{title}: begin at the {first}.", { title: told(p.title), first: told(p.first) })}
      </h2>
      <ol className={classes.axis} data-small={judged !== undefined || undefined} aria-label={tr("Laid along the axis")}>
        {p.parts.map((_, i) => {
          const name = laid[i];
          const wrong = judged && name !== undefined && judged.order[i] !== name;
          return (
            <li key={i} data-wrong={wrong || undefined}>
              {name === undefined ? (
                <span className="soft">{i + 1}</span>
              ) : (
                <button type="button" onClick={() => back(name)} disabled={judged !== undefined} data-laid={name}>
                  {drawn(name)}
                  <span>
                    {wrong ? "✗ " : ""}
                    {told(name)}
                  </span>
                </button>
              )}
            </li>
          );
        })}
      </ol>
      {judged && !judged.holds && (
        <>
          <h3>{tr("So they lie")}</h3>
          <ol className={classes.axis} data-small data-right>
            {judged.order.map((name) => (
              <li key={name}>
                <span className={classes.lies}>
                  {drawn(name)}
                  <span>{told(name)}</span>
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
      {!judged && (
        <ul className={classes.tray} aria-label={tr("On the bench")}>
          {p.parts.map((name, i) => (
            <li key={name}>
              <button type="button" onClick={() => lay(name)} disabled={laid.includes(name)} data-part={name}>
                {drawn(name)}
                <span>
                  <kbd>{i + 1}</kbd> {told(name)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {!judged && <Act act={tr("So they lie")} hint={tr("space")} onClick={done} disabled={!all} kind="now" data-act="main" />}
    </>
  );
}
