import { useState } from "react";
import type { Waiting } from "../../api/outbox";
import type { EntryContent, Joint, Run, TapeLine } from "../../api/types";
import { useKeys } from "../../app/keys";
import { number, time } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { CorrectDialog } from "./CorrectDialog";
import { TapeTrace } from "./Linked";
import classes from "./tighten.module.css";
import { told, tr } from "../../words/words";

/** How many of the newest pulls show their trace. */
const TRACES = 6;

interface TapeProps {
  joint: Joint;
  run: Run;
  waiting: readonly Waiting[];
  mayCorrect: boolean;
}

/** What was done, newest first. */
export function Tape({ joint, run, waiting, mayCorrect }: TapeProps) {
  const [correcting, setCorrecting] = useState<TapeLine>();
  const last = run.tape.find((l) => l.correctable && !l.struck && l.done);
  const correct = mayCorrect && last ? () => setCorrecting(last) : undefined;
  useKeys(correct ? { z: correct } : {});
  return (
    <Panel
      title={tr("Tape")}
      className={classes.tape}
      aside={
        correct && (
          <button type="button" className="link" onClick={correct}>
            {tr("Correct the last entry")} <kbd>Z</kbd>
          </button>
        )
      }
    >
      {/* Scrolled by key as well, so it takes the focus. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <ol className={`lines ${classes.tapeList}`} tabIndex={0} aria-label={tr("What was done, newest first")}>
        {waiting.toReversed().map((w) => (
          <li key={w.entry.id} data-waiting>
            <span className="mono soft">{time(w.entry.at)}</span>
            <span>{sentWords(w.entry.content)}</span>
            <span />
            <span className="soft">{tr("on its way")}</span>
          </li>
        ))}
        {run.tape.map((l, i) => (
          <li key={l.id} data-traced={l.traced || undefined} data-struck={l.struck || undefined} data-entry={l.id}>
            <button
              type="button"
              className={`bare ${classes.tapeLine}`}
              disabled={!mayCorrect || !l.correctable || l.struck}
              onClick={() => setCorrecting(l)}
              title={told(l.note)}
            >
              <span className="mono soft">{time(l.at)}</span>
              <span>{told(l.what)}</span>
              <span className="mono">{value(l)}</span>
              <span data-outcome={l.outcome}>{l.struck ? tr("struck out") : told(l.outcome)}</span>
              {l.note && <span className={`fine ${classes.tapeNote}`}>{told(l.note)}</span>}
            </button>
            {l.traced && i < TRACES && <TapeTrace line={l} />}
          </li>
        ))}
      </ol>
      {correcting && <CorrectDialog joint={joint} run={run} line={correcting} onClose={() => setCorrecting(undefined)} />}
    </Panel>
  );
}

function sentWords(c: EntryContent) {
  return (c.kind === "done" || c.kind === "trouble") && c.bolt ? tr("bolt {bolt}", { bolt: c.bolt }) : told(c.kind);
}

function value(l: TapeLine) {
  const q = l.reading ?? l.value;
  return q ? `${number(q.value)} ${q.unit}` : "";
}
