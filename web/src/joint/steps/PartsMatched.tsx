import type { Step } from "../../api/types";
import classes from "./steps.module.css";

interface PartsMatchedProps {
  parts: Step["parts"];
  marks: Record<string, string>;
  onMarks: (m: Record<string, string>) => void;
}

/** What a tick says of a part whose mark was read and not written down. */
const SEEN = "mark seen";

/** Each part held against the paper: its mark typed or scanned, or ticked as seen. */
export function PartsMatched({ parts, marks, onMarks }: PartsMatchedProps) {
  return (
    <ul className={`lines ${classes.parts}`}>
      {parts.map((p) => {
        const mark = marks[p.name] ?? "";
        const seen = mark === SEEN;
        return (
          <li key={p.name} className="edge" data-edge={mark.trim() && "held"}>
            <span>
              <b>{p.name}</b>
              <span className="soft"> {p.note}</span>
            </span>
            <input
              className="field"
              value={seen ? "" : mark}
              placeholder={seen ? "seen" : "mark, or scan"}
              aria-label={`Mark of the ${p.name}`}
              autoComplete="off"
              maxLength={100}
              onChange={(e) => onMarks({ ...marks, [p.name]: e.currentTarget.value })}
              onKeyDown={(e) => {
                if (e.key === "Enter") e.preventDefault(); // a scanner ends with it
              }}
            />
            <button
              type="button"
              className="field"
              aria-pressed={seen}
              aria-label={`The mark of the ${p.name} was seen`}
              onClick={() => onMarks({ ...marks, [p.name]: seen ? "" : SEEN })}
            >
              <svg viewBox="-12 -12 24 24" width="24" height="24" aria-hidden="true">
                <path d="M-8 0 L-2 6 L9 -7" />
              </svg>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
