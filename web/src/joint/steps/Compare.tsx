import { lazy, Suspense, useState } from "react";
import type { Compared } from "../../api/types";
import { scans } from "../../app/scans";
import { Dialog } from "../../ui/Form";
import classes from "./steps.module.css";
import { told, tr } from "../../words/words";

const Scan = lazy(() => import("../../app/Scan").then((m) => ({ default: m.Scan })));

interface CompareProps {
  compares: Compared[];
  marks: Record<string, string>;
  onMarks: (m: Record<string, string>) => void;
}

/** What a tick says of a mark that was read and not written down. */
export const SEEN = "seen";

/** Marks that are compared: typed, scanned or chosen; where nothing is held against them, seen is enough. */
export function Compare({ compares, marks, onMarks }: CompareProps) {
  const [scanning, setScanning] = useState<string>();
  const set = (of: string, mark: string) => onMarks({ ...marks, [of]: mark });
  return (
    <ul className={`lines ${classes.parts}`}>
      {compares.map((c) => {
        const mark = marks[c.of] ?? "";
        const seen = mark === SEEN;
        return (
          <li key={c.of} className="edge" data-edge={mark.trim() && "held"}>
            <span>
              <b>{told(c.of)}</b>
              <span className="soft"> {told(c.note)}</span>
            </span>
            {c.answers.length > 0 ? (
              <select
                className="field"
                value={mark}
                aria-label={told(c.of)}
                onChange={(e) => set(c.of, e.currentTarget.value)}
                data-mark={c.of}
              >
                <option value="">{tr("choose")}</option>
                {c.answers.map((a) => (
                  <option key={a} value={a}>
                    {told(a)}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className="field"
                value={seen ? "" : mark}
                placeholder={seen ? tr("seen") : tr("as it reads")}
                aria-label={tr("Mark of the {of}", { of: told(c.of) })}
                data-mark={c.of}
                autoComplete="off"
                maxLength={100}
                onChange={(e) => set(c.of, e.currentTarget.value)}
                onKeyDown={(e) => {
                  if (e.key === "Enter") e.preventDefault(); // a scanner ends with it
                }}
              />
            )}
            {c.answers.length === 0 &&
              (c.compared ? (
                scans() ? (
                  <button
                    type="button"
                    className="field"
                    aria-label={tr("Scan the mark of the {of}", { of: told(c.of) })}
                    onClick={() => setScanning(c.of)}
                  >
                    {tr("scan")}
                  </button>
                ) : (
                  <span />
                )
              ) : (
                <button
                  type="button"
                  className="field"
                  aria-pressed={seen}
                  aria-label={tr("The mark of the {of} was seen", { of: told(c.of) })}
                  onClick={() => set(c.of, seen ? "" : SEEN)}
                >
                  <svg viewBox="-12 -12 24 24" width="24" height="24" aria-hidden="true">
                    <path d="M-8 0 L-2 6 L9 -7" />
                  </svg>
                </button>
              ))}
          </li>
        );
      })}
      {scanning && (
        <Dialog
          title={tr("Scan: {scanning}", { scanning })}
          act={tr("Leave it")}
          no={tr("Close")}
          onClose={() => setScanning(undefined)}
          onAct={() => setScanning(undefined)}
        >
          <Suspense fallback={<p>{tr("The camera starts.")}</p>}>
            <Scan
              onCode={(text) => {
                set(scanning, text.slice(0, 100));
                setScanning(undefined);
              }}
            />
          </Suspense>
        </Dialog>
      )}
    </ul>
  );
}
