import { Button, Group, Text } from "@mantine/core";
import { useMediaQuery } from "@mantine/hooks";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { Joint, Run, Step } from "../../api/types";
import { useOutboxState } from "../../app/context";
import { boltKey, Figure } from "../../drawing/Figure";
import { LotsToday } from "../../library/LotCheck";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { boltsOf } from "../bolts";
import { stations } from "../Stud";
import { AnotherLubricant } from "../tighten/AnotherLubricant";
import { Refusals } from "../tighten/Refusals";
import { Signs } from "../tighten/Signs";
import { article, filled } from "../words";
import { Comes } from "./Limit";
import { ReadingField } from "./ReadingField";
import { StepCard } from "./StepCard";
import classes from "./steps.module.css";
import { Stopped } from "./Stopped";

interface StationStepsProps {
  joint: Joint;
  run: Run;
  station: number;
}

/** Readings typed on the drawing need room beside its bolts; without it they stand in a list. */
const ROOM = "(min-width: 761px)";

/** The steps of a station beside the drawing: what is done, what is open, what comes. */
export function StationSteps({ joint, run, station }: StationStepsProps) {
  const navigate = useNavigate();
  const { acts } = useOutboxState();
  const room = useMediaQuery(ROOM, true, { getInitialValueInEffect: false });
  const may = useMay("fitter", "inspector") && run.standing !== "signed";
  const [chosen, setChosen] = useState<string>();
  const [readings, setReadings] = useState<Record<string, string[]>>({});
  const steps = run.steps.filter((s) => s.station === station && s.does !== "sign");
  const mine = acts.filter((a) => a.run === run.id && !a.problem && !a.pinned);
  const sent = new Set(mine.map(({ entry: { content } }) => (content.kind === "done" ? content.step : "")));
  const open = steps.filter((s) => s.offered && !sent.has(s.id));
  const now = open.find((s) => s.id === chosen) ?? open[0];
  const typed = now ? filled(readings[now.id], now.spots.length) : [];
  const setTyped = (v: string[]) => now && setReadings({ ...readings, [now.id]: v });
  const spots = now?.spots.filter((p) => p.x !== 0 || p.y !== 0) ?? [];
  const placed = room ? spots : [];
  const done = steps.every((s) => s.done);
  const at = run.standing === "sign" || run.standing === "signed" ? 5 : joint.station;
  const marked = may && now ? now.sample.map((bolt) => boltKey(now.sampleOf, bolt)) : undefined;
  return (
    <div className={classes.steps}>
      <div className={classes.left}>
        <div className={classes.face}>
          {run.figure.bolts.length > 0 && (
            <Figure figure={run.figure} bolts={boltsOf(run)} title={`${joint.draft.recipe.title}, as it stands`} marked={marked}>
              {!room &&
                spots.map((p, i) =>
                  typed[i] ? (
                    <text key={p.text} x={p.x} y={p.y} fontSize="9" fontWeight="700" textAnchor="middle" fill="var(--plan)">
                      {typed[i]}
                    </text>
                  ) : (
                    <circle key={p.text} cx={p.x} cy={p.y} r="5" fill="var(--panel)" stroke="var(--plan)" strokeWidth="2" />
                  ),
                )}
            </Figure>
          )}
          {now &&
            may &&
            placed.map((p, i) => (
              <div key={p.text} className={classes.spot} style={{ left: `${50 + (p.x / 228) * 100}%`, top: `${50 + (p.y / 232) * 100}%` }}>
                <ReadingField label={p.text} name={`reading${i + 1}`} value={typed[i] ?? ""} onChange={(v) => setTyped(typed.with(i, v))} />
              </div>
            ))}
        </div>
        <Signs run={run} />
        {station === 4 && <Before steps={run.steps.filter((s) => s.station < 4)} />}
      </div>
      <div className={classes.stepsRight}>
        <Refusals acts={acts} run={run} />
        <Stopped joint={joint} run={run} />
        {now?.does === "lubricate" && <LotsToday names={run.groups.map((g) => g.lubrication)} />}
        {now && may && !run.paused && run.standing !== "stopped" && (
          <StepCard key={now.id} joint={joint} run={run} step={now} drawn={{ typed, onTyped: setTyped, placed: placed.length > 0 }} />
        )}
        {done && at > station && (
          <Panel kind="held">
            <Group justify="space-between" fz={19}>
              <b>All of it is done.</b>
              <Button color="held" size="lg" mih={72} miw={160} onClick={() => void navigate(`/joint/${joint.id}/${at}`)}>
                {run.standing === "signed" ? "The record" : stations[at - 1]}
              </Button>
            </Group>
          </Panel>
        )}
        <ol className={`lines ${classes.list}`}>
          {steps.map((s) => (
            <li key={s.id}>
              <Line step={s} now={s === now} waiting={sent.has(s.id)} onOpen={s.offered && s !== now ? () => setChosen(s.id) : undefined} />
            </li>
          ))}
        </ol>
        <AnotherLubricant joint={joint} run={run} />
      </div>
    </div>
  );
}

/** What the proof stands on: the rounds, and what was measured before them. */
function Before({ steps }: { steps: Step[] }) {
  const rounds = steps.flatMap((s) => s.rounds);
  const measured = steps.filter((s) => s.readings && s.unit).reverse();
  if (rounds.length + measured.length === 0) return null;
  return (
    <section className={classes.before} aria-label="What it stands on">
      {rounds.map((text) => (
        <p key={text}>{text}</p>
      ))}
      {measured.map((s) => (
        <p key={s.id}>
          <span className="soft">{s.text}</span> <span className="mono">{s.readings}</span>
          {s.comes && "; "}
          <Comes step={s} />
        </p>
      ))}
    </section>
  );
}

/** A step in one line: what, and who did it when. */
function Line({ step: s, now, waiting, onOpen }: { step: Step; now: boolean; waiting: boolean; onOpen?: () => void }) {
  const state = s.outside ? "outside" : s.done ? "done" : now ? "now" : s.offered ? "open" : "later";
  return (
    <button type="button" className={`bare ${classes.line}`} data-state={state} data-step={s.id} disabled={!onOpen} onClick={onOpen}>
      <StepMark state={state} />
      <span>
        <span className={classes.lineText}>{s.text}</span>
        {s.readings && <span className="mono"> {s.readings}</span>}
        {s.marks.length > 0 && <div className="fine">{s.marks.join("; ")}</div>}
        {s.outside && (
          <Text span display="block" c="stop">
            {s.outside}. Because: {s.reason}
          </Text>
        )}
        {s.tries.length > 1 && (
          <span className={classes.tries}>
            {s.tries.map((t) => (
              <span key={t.at + t.readings} data-in={!t.outside || undefined}>
                {t.readings}
              </span>
            ))}
          </span>
        )}
      </span>
      <span className="soft">
        {waiting
          ? "on its way"
          : s.doneBy && s.done
            ? `${s.doneBy}, ${dateTime(s.doneAt!)}`
            : s.by
              ? `for ${article(s.by)}`
              : onOpen
                ? "open"
                : ""}
      </span>
    </button>
  );
}

/** Done: a tick; outside its limit: a bar; open: a ring. */
function StepMark({ state }: { state: string }) {
  return (
    <svg viewBox="-10 -10 20 20" width="20" height="20" aria-hidden="true" className={classes.mark}>
      {state === "done" && <path d="M-7 0 L-2 5 L8 -6" />}
      {state === "outside" && <path d="M-7 -7 L7 7 M7 -7 L-7 7" />}
      {(state === "open" || state === "now") && <circle r={state === "now" ? 7 : 5} />}
    </svg>
  );
}
