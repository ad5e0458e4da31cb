import { useEffect, useRef, useState } from "react";
import type { DrillMove, DrillStood, DrillTask } from "../../api/types";
import { useKeys } from "../../app/keys";
import { FaceDrawing } from "../../drawing/faces/Face";
import { Act } from "../../ui/Act";
import { number } from "../../ui/format";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";

/** How often the gauge is looked at, ms. */
const EVERY = 100;

/** A large turn, in small ones. */
const MUCH = 8;

/** A pump whose pressure drifts, and its regulator. The core says where the needle stands; the hand follows it. */
export function Press({ task: g, of, trier, judged, onAnswer }: TaskProps<NonNullable<DrillTask["press"]>>) {
  const [running, setRunning] = useState(false);
  const [stood, setStood] = useState<DrillStood>();
  const begun = useRef(0);
  const moves = useRef<DrillMove[]>([]);
  const answer = useRef(onAnswer);
  answer.current = onAnswer;
  const ask = useRef(of);
  useEffect(() => {
    if (!running) return;
    let here = true;
    let busy = false;
    const look = setInterval(() => {
      if (busy) return;
      busy = true;
      const at = (performance.now() - begun.current) / 1000;
      void trier.ask<DrillStood>("stood", { ...ask.current, given: { value: 0, moves: moves.current }, at }).then((a) => {
        busy = false;
        if (!here || !a.is) return;
        setStood(a.is);
        if (a.is.done) {
          setRunning(false);
          answer.current({ value: 0, moves: moves.current });
        }
      });
    }, EVERY);
    return () => {
      here = false;
      clearInterval(look);
    };
  }, [running, trier]);
  const turn = (by: number) => {
    if (!running) return;
    const to = Math.max(0, (moves.current.at(-1)?.to ?? 0) + by);
    moves.current = [...moves.current, { at: (performance.now() - begun.current) / 1000, to }];
  };
  const start = () => {
    begun.current = performance.now();
    moves.current = [];
    setRunning(true);
  };
  useKeys(
    judged
      ? {}
      : running
        ? { ArrowDown: () => turn(-1), ArrowUp: () => turn(1), ArrowLeft: () => turn(-MUCH), ArrowRight: () => turn(MUCH) }
        : { " ": start },
  );
  const value = Math.min(g.shows.most, stood?.pressure ?? 0);
  const turns = [
    { by: -MUCH, key: "←" },
    { by: MUCH, key: "→" },
    { by: -1, key: "↓" },
    { by: 1, key: "↑" },
  ];
  return (
    <div className={classes.side}>
      <div className={classes.faceOf} data-face={g.shows.kind} data-pressure={value} data-to={g.to} data-over={stood?.over || undefined}>
        <FaceDrawing face={{ ...g.shows, value }} blind={tr("The gauge of the pump")} />
        <p className="soft">
          {g.tag} · {told(g.name)}
        </p>
      </div>
      <div className={classes.hand}>
        <h2>{tr("Hold it for {hold} s", { hold: number(g.hold) })}</h2>
        <p className={classes.large}>
          <span className="mono">{number(g.to)}</span> {g.shows.unit}
        </p>
        <p>
          {tr("{off} {unit} more or less still count. Never above {most} {unit}.", {
            off: number(g.off),
            most: number(g.most),
            unit: g.shows.unit,
          })}
        </p>
        <div className={classes.held} role="img" aria-label={tr("Held for {held} s", { held: number(Math.floor(stood?.held ?? 0)) })}>
          <i style={{ width: `${Math.min(100, (100 * (stood?.held ?? 0)) / g.hold)}%` }} />
        </div>
        {running || judged ? (
          <div className={classes.turns}>
            {turns.map(({ by, key }) => (
              <button key={by} type="button" onClick={() => turn(by)} disabled={!running} data-turn={by}>
                <b>{by < 0 ? (by < -1 ? tr("much lower") : tr("a little lower")) : by > 1 ? tr("much higher") : tr("a little higher")}</b>
                <kbd>{key}</kbd>
              </button>
            ))}
          </div>
        ) : (
          <Act act={tr("Start the pump")} hint={tr("space")} onClick={start} kind="now" data-act="main" />
        )}
        <p className="soft">{tr("Hands off hose and arm while a pump runs: here it is only drawn.")}</p>
      </div>
    </div>
  );
}
