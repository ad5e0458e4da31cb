import { tag } from "../../words/locale";
import { Modal } from "@mantine/core";
import { useState } from "react";
import type { Face } from "../../api/types";
import { Dial } from "./Dial";
import { Electronic } from "./Electronic";
import { Preset } from "./Preset";
import { Ring } from "./Ring";
import { Window } from "./Window";
import classes from "./faces.module.css";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

export interface FaceProps {
  face: Face;
  /** What the drawing is called where it says its value to the eye alone: somebody is to read it. */
  blind?: string;
}

/** A number as a face writes it: its figures behind the point always there. */
export const written = (v: number, digits: number) =>
  v.toLocaleString(tag, { minimumFractionDigits: digits, maximumFractionDigits: digits, useGrouping: false });

const drawings = {
  "ring and thimble": Ring,
  "torque screwdriver": Ring,
  window: Window,
  dial: Dial,
  gauge: Dial,
  electronic: Electronic,
  preset: Preset,
};

/** What the hand sees of a tool that is set, or read, at a value. */
export function FaceDrawing({ face, blind }: FaceProps) {
  const Drawing = drawings[face.kind] ?? Ring;
  return <Drawing face={face} blind={blind} />;
}

/** A tool's face with what it shows in words; touched, it grows. */
export function FaceView({ face, name, words = true }: FaceProps & { name?: string; words?: boolean }) {
  const [grown, setGrown] = useState(false);
  return (
    <div className={classes.face} data-face={face.kind}>
      <div className={classes.touch}>
        <FaceDrawing face={face} />
        <button type="button" onClick={() => setGrown(true)} aria-label={tr("Make it larger: {face}", { face: told(face.words) })} />
      </div>
      {words && (
        <p className={classes.words}>
          {name && <b>{name}</b>}
          <Lines face={face} />
        </p>
      )}
      {grown && (
        <Modal opened onClose={() => setGrown(false)} title={<b>{told(face.words)}</b>} size="lg">
          <div className={classes.grown}>
            <FaceDrawing face={face} />
          </div>
        </Modal>
      )}
    </div>
  );
}

/** The two or three things to look at, short. */
function Lines({ face: f }: FaceProps) {
  const value = (
    <b className="mono">
      {written(f.value, f.digits)} {f.unit}
    </b>
  );
  switch (f.kind) {
    case "ring and thimble":
    case "torque screwdriver":
      return (
        <>
          <span>
            {f.falls ? tr("last line showing") : tr("last line covered")} <b className="mono">{written(f.main, f.digits)}</b>
          </span>
          {f.turn > 1 && (
            <span>
              <Say of="ring at the line {minors}" with={{ minors: <b className="mono">{f.minors}</b> }} />
            </span>
          )}
          <span>{tr("lock it, look again")}</span>
        </>
      );
    case "window":
      return (
        <>
          <span>
            {tr("window shows")} {value}
          </span>
          <span>{tr("lock it, look again")}</span>
        </>
      );
    case "dial":
      return (
        <>
          <span>{tr("zero pointer and follower")}</span>
          <span>
            {tr("stop at")} {value}
          </span>
        </>
      );
    case "electronic":
      return (
        <>
          <span>{tr("peak mode, zeroed")}</span>
          <span>
            {tr("target")} {value}
          </span>
        </>
      );
    case "preset":
      return (
        <span>
          {tr("set on the bench:")} {value}
        </span>
      );
    default:
      return (
        <>
          <span>
            {tr("needle at")} {value}
          </span>
          {f.limit && f.limit < f.most ? (
            <span>
              <Say
                of="never past {limit}"
                with={{
                  limit: (
                    <b className="mono">
                      {written(f.limit, 0)} {f.unit}
                    </b>
                  ),
                }}
              />
            </span>
          ) : null}
        </>
      );
  }
}
