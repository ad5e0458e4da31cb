import type { Caution } from "../api/types";
import { Why } from "./Why";
import classes from "./ui.module.css";
import { Told } from "./Told";
import { tr } from "../words/words";

const words: Record<Caution["kind"], string> = {
  danger: tr("Danger"),
  forbidden: tr("Forbidden"),
  required: tr("Required"),
  "spoils the joint": tr("Spoils the joint"),
};

/** A caution with the shape and the word of its kind. */
export function CautionSign({ caution: c, small = false }: { caution: Caution; small?: boolean }) {
  return (
    <div className={classes.caution} data-kind={c.kind} data-small={small || undefined}>
      <svg viewBox="0 0 32 32" aria-hidden="true">
        {c.kind === "danger" && <path d="M16 3 L30 28 H2 Z M16 12 V20 M16 23.4 V25.4" />}
        {c.kind === "forbidden" && <path d="M16 3 A13 13 0 1 1 15.99 3 Z M7 25 L25 7" />}
        {c.kind === "required" && (
          <>
            <circle cx="16" cy="16" r="13.5" data-full />
            <path d="M9 16.5 L14 21.5 L23.5 11" data-on />
          </>
        )}
        {c.kind === "spoils the joint" && <path d="M4 4 H28 V28 H4 Z M18 4 L13 13 L19 18 L14 28" />}
      </svg>
      <span>
        <b>{words[c.kind]}</b>
        <span>
          <Told text={c.text} />
        </span>
        {c.why && !small && <Why text={c.why} />}
      </span>
    </div>
  );
}
