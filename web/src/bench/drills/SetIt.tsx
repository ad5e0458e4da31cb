import { useRef, useState } from "react";
import type { DrillTask, Face } from "../../api/types";
import { useKeys } from "../../app/keys";
import { FaceDrawing, written } from "../../drawing/faces/Face";
import { Act } from "../../ui/Act";
import { number } from "../../ui/format";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";

/** A tool in the hand: it is turned to what is asked for, and locked. The core says what its face shows at each turn. */
export function SetIt({ task: f, of, trier, judged, onAnswer }: TaskProps<NonNullable<DrillTask["face"]>>) {
  const [face, setFace] = useState<Face>(f.shows);
  // One turn after the other: each begins where the one before has ended.
  const turned = useRef(Promise.resolve(f.shows));
  function turn(by: number) {
    if (judged) return;
    turned.current = turned.current.then(async (shows) => (await trier.ask<Face>("shown", { ...of, at: shows.value, by })).is ?? shows);
    void turned.current.then(setFace);
  }
  const closed = f.steps.length === 0;
  const locks = ["ring and thimble", "torque screwdriver", "window"].includes(face.kind);
  const lock = () => !judged && !closed && void turned.current.then((shows) => onAnswer({ value: shows.value }));
  const keys = ["ArrowLeft", "ArrowRight", "ArrowDown", "ArrowUp", "PageDown", "PageUp"];
  useKeys(
    judged
      ? {}
      : {
          ...Object.fromEntries(f.steps.flatMap((s, i) => [-s, s].map((by, k) => [keys[2 * i + k]!, () => turn(by)]))),
          ...(closed ? { "1": () => onAnswer({ value: 1 }), "2": () => onAnswer({ value: 0 }) } : { " ": lock }),
        },
  );
  return (
    <div className={classes.side}>
      <div className={classes.faceOf} data-face={face.kind} data-at={face.value}>
        <FaceDrawing face={face} blind={tr("The face of {tool}, at a value that is to be read off it", { tool: f.tag })} />
        <p className="soft">
          {f.tag} · {told(f.name)}
        </p>
      </div>
      <div className={classes.hand}>
        <h2>{closed ? tr("Is this the tool for it?") : locks ? tr("Set it") : tr("Bring it to")}</h2>
        <p className={classes.large} data-to={f.to}>
          <span className="mono">{written(f.to, closed ? 0 : face.digits)}</span> {f.unit}
        </p>
        {closed ? (
          !judged && (
            <div className={classes.options}>
              <button type="button" onClick={() => onAnswer({ value: 1 })} data-option="1">
                <kbd>1</kbd> {tr("It is set to that")}
              </button>
              <button type="button" onClick={() => onAnswer({ value: 0 })} data-option="0">
                <kbd>2</kbd> {tr("Take another tool")}
              </button>
            </div>
          )
        ) : (
          <>
            <div className={classes.turns}>
              {f.steps.map((s, i) =>
                [-s, s].map((by, k) => (
                  <button key={by} type="button" onClick={() => turn(by)} disabled={judged !== undefined} data-turn={by}>
                    <b className="mono">
                      {by < 0 ? "−" : "+"}
                      {number(s)}
                    </b>
                    <kbd>{["←", "→", "↓", "↑", "PgDn", "PgUp"][2 * i + k]}</kbd>
                  </button>
                )),
              )}
            </div>
            {!judged && <Act act={locks ? tr("Lock it") : tr("That is it")} hint={tr("space")} onClick={lock} kind="now" data-act="main" />}
          </>
        )}
      </div>
    </div>
  );
}
