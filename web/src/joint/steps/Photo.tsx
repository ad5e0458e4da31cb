import { useRef, useState } from "react";
import type { Joint, Run, Step } from "../../api/types";
import { useOutboxState, useRecord } from "../../app/context";
import { shrink } from "./shrink";
import classes from "./steps.module.css";
import { told, tr } from "../../words/words";

interface PhotoProps {
  joint: Joint;
  run: Run;
  /** The step it belongs to; without one it is of the joint. */
  step?: Step;
  /** What it is to show, where the step asks for one. */
  what?: string;
  /** As the one large act, or beside others. */
  large?: boolean;
}

/** Takes a photograph with the device's camera, or a file: made smaller here, kept on the device until the server has it. */
export function Photo({ joint, run, step, what = "", large = false }: PhotoProps) {
  const record = useRecord(joint.id, run.id);
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  async function take(file: File | undefined) {
    if (!file) return;
    setBusy(true);
    setWrong("");
    try {
      const p = await shrink(file);
      record({ kind: "photo", step: step?.id ?? "", hash: p.hash, what }, { photo: p.file });
    } catch (e) {
      setWrong(e instanceof Error ? e.message : tr("It could not be read."));
    }
    setBusy(false);
    if (input.current) input.current.value = "";
  }
  return (
    <div className={large ? classes.photoAct : undefined}>
      <input
        ref={input}
        className="visually-hidden"
        type="file"
        accept="image/*"
        capture="environment"
        name={`photo-${step?.id ?? "joint"}`}
        aria-label={what ? tr("Photograph: {what}", { what }) : tr("Photograph")}
        tabIndex={-1}
        onChange={(e) => void take(e.currentTarget.files?.[0])}
      />
      <button type="button" className={large ? "pick" : "link"} onClick={() => input.current?.click()} disabled={busy} data-act="photo">
        <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true" className={classes.camera}>
          <path d="M3 7 h4 l2 -3 h6 l2 3 h4 v13 h-18 z M12 9.5 a4 4 0 1 1 -0.01 0" />
        </svg>{" "}
        {busy ? tr("It is made smaller") : large ? tr("Photograph {what}", { what }) : tr("Photograph")}
      </button>
      {wrong && (
        <p role="alert" className={classes.missing}>
          {tr("{wrong} Nothing is lost; take another.", { wrong })}
        </p>
      )}
    </div>
  );
}

/** The photographs of a step, small; each opens large. */
export function Photos({ run, step }: { run: Run; step?: string }) {
  const { acts } = useOutboxState();
  const list = run.photos.filter((p) => step === undefined || p.step === step);
  if (list.length === 0) return null;
  // One that waits here is not on any server yet.
  const waits = new Map(acts.flatMap((a) => (a.photo && a.entry.content.kind === "photo" ? [[a.entry.content.hash, a.photo]] : [])));
  return (
    <ul className={classes.photos}>
      {list.map((p) => (
        <li key={p.entry}>
          {waits.has(p.hash) ? (
            <img
              src={`data:image/jpeg;base64,${waits.get(p.hash)}`}
              alt={told(p.what) || tr("Photograph, not sent yet")}
              width={96}
              height={72}
            />
          ) : (
            <a href={`/api/photos/${p.hash}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/photos/${p.hash}`}
                alt={told(p.what) || tr("Photograph by {by}", { by: p.by })}
                width={96}
                height={72}
                loading="lazy"
              />
            </a>
          )}
        </li>
      ))}
    </ul>
  );
}
