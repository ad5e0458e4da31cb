import { Text, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { DoneContent, Joint, Run, Step } from "../../api/types";
import { useActs, useRecord, useWatched } from "../../app/context";
import { useHold } from "../../app/hold";
import { useKeys } from "../../app/keys";
import { FaceView } from "../../drawing/faces/Face";
import { DriveSide } from "../../drawing/hydraulics/DriveSide";
import { Act } from "../../ui/Act";
import { readNumber } from "../../ui/format";
import { Offered, useSent } from "../../ui/Offered";
import { Panel } from "../../ui/Panel";
import { StepPapers } from "../../ui/Papers";
import { Pin } from "../../ui/Pin";
import { Refusal } from "../../ui/Refusal";
import { Why } from "../../ui/Why";
import { article, filled } from "../words";
import { CautionPanel } from "./CautionPanel";
import { Clock, useSince } from "./Clock";
import { Compare, SEEN } from "./Compare";
import { Leave } from "./Leave";
import { Photo, Photos } from "./Photo";
import { Answers, Readings } from "./Readings";
import { Release } from "./Release";
import { sentOf } from "./sent";
import classes from "./steps.module.css";
import { ticked, Ticks } from "./Ticks";
import { Told } from "../../ui/Told";
import { told, tr } from "../../words/words";

interface StepCardProps {
  joint: Joint;
  run: Run;
  step: Step;
  /** Its readings, where they are shown on the drawing too; placed: and have their fields there. */
  drawn?: { typed: string[]; onTyped: (v: string[]) => void; placed: boolean };
}

/** The step that is open: its caution, what to do, what to tick, compare and read, and the one large act. */
export function StepCard({ joint, run, step, drawn }: StepCardProps) {
  const record = useRecord(joint.id, run.id);
  const acts = useActs(joint);
  const sent = sentOf(acts, run.id, step.id);
  const ticks = ticked(step, sent.items);
  const tick = ticks.find((t) => t.free && !t.missing) ?? ticks.find((t) => t.free);
  if (!step.cautioned) return <CautionPanel step={step} onRead={() => record({ kind: "caution", step: step.id })} />;
  const whole = step.all - step.ticks.length - (step.photo ? 1 : 0) - (step.release ? 1 : 0) > 0;
  if (!tick && (!whole || sent.whole || step.now === "photo" || step.now === "release")) {
    return (
      <Panel kind="now" title={told(step.word)}>
        <p className="big" data-current={step.id}>
          <Told text={step.text} />
        </p>
        <Done step={step} run={run} />
        {step.photo && !sent.photo && step.now !== "release" ? (
          <>
            <p>{tr("{photo}: a photograph goes with the record.", { photo: sentence(told(step.photo)) })}</p>
            <Photo joint={joint} run={run} step={step} what={told(step.photo)} large />
            {!step.must && (
              <Leave step={step} onLeave={(reason) => record({ kind: "done", step: step.id, photo: true, skipped: true, reason })} />
            )}
          </>
        ) : step.release && step.now === "release" ? (
          <Release joint={joint} run={run} step={step} />
        ) : (
          <p className="soft">{tr("On its way.")}</p>
        )}
      </Panel>
    );
  }
  return (
    <Open key={tick ? "tick" : "whole"} joint={joint} run={run} step={step} drawn={drawn} ticks={ticks} tick={tick?.item} whole={whole} />
  );
}

const sentence = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** What was read before it waits for somebody. */
function Done({ step, run }: { step: Step; run: Run }) {
  return (
    <>
      {step.readings && (
        <p className="mono">
          {told(step.readings)}
          {step.comes && (
            <b>
              {" → "}
              {told(step.comes)}
            </b>
          )}
        </p>
      )}
      {step.marks.length > 0 && <p className="soft">{step.marks.map((m) => told(m)).join("; ")}</p>}
      <Photos run={run} step={step.id} />
    </>
  );
}

interface OpenProps extends StepCardProps {
  ticks: ReturnType<typeof ticked>;
  /** The line that is next; undefined where all are ticked. */
  tick?: number;
  whole: boolean;
}

function Open({ joint, run, step, drawn, ticks, tick, whole }: OpenProps) {
  const record = useRecord(joint.id, run.id);
  const acts = useActs(joint);
  const [reason, setReason] = useInputState("");
  const [leaving, setLeaving] = useState(false);
  const [asking, setAsking] = useState<DoneContent>();
  const [held, setHeld] = useState("");
  const [own, setOwn] = useState<string[]>();
  const { typed, onTyped, placed } = drawn ?? { typed: filled(own, step.spots.length), onTyped: setOwn, placed: false };
  const [marks, setMarks] = useState<Record<string, string>>({});
  const values = typed.map((t) => readNumber(t));
  const numbers = values.filter((v) => v !== undefined);
  const reading = tick === undefined && step.places > 0;
  const sent = useSent(typed);
  const gap = typed.findIndex((t) => t.trim() === "");
  const unit = step.reads.flatMap((r) => r.fields.map((f, i) => ({ at: r.from + i, unit: f.unit }))).find((f) => f.at === gap)?.unit;
  const from = !leaving && sent.ids.length > 0 ? { from: sent.ids } : {};
  const full = step.places === 0 || numbers.length === step.places;
  const since = useSince(step.started);
  const minutes = step.hold > 0 ? (readNumber(held) ?? since) : undefined;
  const run_out = step.hold > 0 && minutes !== undefined && minutes >= step.hold;
  const asked = Math.floor((minutes ?? 0) * 2) / 2;
  const verdict = useQuery({
    queryKey: ["readings", run.id, run.entries, step.id, values, run_out || asked],
    queryFn: () => {
      const body = { step: step.id, readings: numbers, ...(minutes === undefined ? {} : { held: minutes }) };
      return take(http.POST("/api/runs/{run}/readings", { params: { path: { run: run.id } }, body }));
    },
    placeholderData: (before) => before,
    enabled: reading && full,
    retry: false,
  });
  const data = full ? verdict.data : undefined;
  const outside = data?.outside ?? "";
  // A reading outside is kept as a try: it is adjusted, or all of the group are measured.
  const adjusts = step.does === "adjust" || step.widens;
  const never = Boolean(data?.never) && !adjusts;
  const wantsReason = leaving || (outside !== "" && !adjusts && !never);
  const unseen = step.compares.find((c) => !c.compared && c.answers.length === 0 && !marks[c.of]?.trim());
  const matched = step.compares.every((c) => marks[c.of]?.trim());
  const judged = step.places === 0 || (data !== undefined && !verdict.isError && !never);
  const complete = full && matched && judged && (step.hold === 0 || run_out || (minutes !== undefined && reason.trim() !== ""));
  const ready = tick === undefined && (leaving || complete) && (!wantsReason || reason.trim() !== "");
  const starting = acts.some((a) => a.run === run.id && a.entry.content.kind === "started" && a.entry.content.step === step.id);

  const emptied = () => onTyped(typed.map(() => ""));
  const withPin = useWatched(joint.id, run.id, () => {
    setAsking(undefined);
    if (adjusts) emptied();
  });

  function content(more: Partial<DoneContent>): DoneContent {
    return {
      kind: "done",
      step: step.id,
      ...(step.places > 0 ? { readings: numbers, ...(step.sample.length > 0 ? { bolts: step.sample } : {}) } : {}),
      ...(minutes !== undefined && !step.started ? { held: minutes } : {}),
      ...(step.compares.length > 0 ? { marks: step.compares.map((c) => `${c.of}: ${(marks[c.of] ?? "").trim()}`) } : {}),
      ...(reason.trim() && wantsReason ? { reason: reason.trim() } : {}),
      ...more,
    };
  }

  function act() {
    if (!ready) return;
    const done: DoneContent = leaving ? { kind: "done", step: step.id, skipped: true, reason: reason.trim() } : content({});
    if (step.by || (step.beyond && (outside || leaving))) return setAsking(done);
    record(done, from);
    if (adjusts) emptied();
  }

  function keepTry() {
    record(content({ tried: true, reason: reason.trim() || undefined }), from);
    emptied();
  }

  const tickOff = (item: number) => record({ kind: "done", step: step.id, item });
  const hold = useHold(
    tick !== undefined
      ? () => tickOff(tick)
      : unseen && step.places === 0
        ? () => setMarks({ ...marks, [unseen.of]: SEEN })
        : step.compares.length > 0 && step.places === 0 && ready && !step.by
          ? act
          : undefined,
  );
  const bySpace = tick !== undefined || (step.compares.length > 0 && step.places === 0);
  useKeys(bySpace ? {} : { " ": act });

  const current = ticks.find((t) => t.item === tick);
  const who = step.by || (outside && step.beyond) || (leaving && step.beyond) || "";
  return (
    <Panel kind="now" title={told(step.word)} aside={asideOf(step)}>
      <p className={current ? "soft" : "big"} data-current={step.id}>
        <Told text={step.text} />
      </p>
      {current && (
        <div className={classes.placing} data-part={Boolean(current.part) || undefined}>
          <b>{current.part ? <Told text={current.part} /> : <Told text={current.text} as={sentence} />}</b>
          {current.part && current.text && (
            <span>
              <Told text={current.text} />
            </span>
          )}
          {current.part && <PartFor run={run} part={current.part} />}
        </div>
      )}
      {step.shows && tick !== undefined && <DriveSide to={step.shows === "drive to loosen" ? "loosen" : "tighten"} />}
      {step.why && <Why text={step.why} />}
      <StepPapers at={{ recipe: joint.draft.recipe.id, joint: joint.id }} step={step.id} />
      {step.items.length > 0 && (
        <ol className={classes.items}>
          {step.items.map((i) => (
            <li key={i}>
              <Told text={i} />
            </li>
          ))}
        </ol>
      )}
      {tick !== undefined && (
        <Act act={tickWords(step, current?.part)} hint={tr("space bar or pedal; held, the next ones too")} data-act="main" {...hold} />
      )}
      {ticks.length > 0 && tick === undefined && ticks.every((t) => t.done) && (
        <p className={`soft ${classes.ticked}`}>{ticks.map((t) => [told(t.part), told(t.text)].filter(Boolean).join(", ")).join("; ")}</p>
      )}
      {ticks.length > 0 && (tick !== undefined || !ticks.every((t) => t.done)) && (
        <Ticks
          ticks={ticks}
          now={tick}
          onTick={tickOff}
          onMissing={step.does === "place" ? undefined : (item) => record({ kind: "done", step: step.id, item, tried: true })}
          missingWord={step.id === "kit" ? tr("not here") : tr("not so")}
        />
      )}
      {tick === undefined && step.compares.length > 0 && !leaving && <Compare compares={step.compares} marks={marks} onMarks={setMarks} />}
      {step.sample.length > 0 && <p className="soft">{sampleWords(step)}</p>}
      {step.tries.length > 0 && (
        <p className="soft">
          {tr("Tries: {tries}", {
            tries: step.tries.map((t) => [told(t.readings), told(t.outside)].filter(Boolean).join(": ")).join(tr("; then ")),
          })}
        </p>
      )}
      {reading && !leaving && step.face && <FaceView face={step.face} />}
      {reading && !leaving && <Readings step={step} typed={typed} onTyped={onTyped} placed={placed} />}
      {reading && !leaving && (
        <Offered
          unit={unit}
          used={sent.ids}
          onTake={(r) => {
            sent.put(gap, r);
            onTyped(typed.with(gap, String(r.value)));
          }}
        />
      )}
      {step.fromRecord && <p className="soft">{tr("Its reading is taken from the record itself.")}</p>}
      {tick === undefined && step.hold > 0 && !leaving && (
        <Clock step={step} value={held} onValue={setHeld} starting={starting} onStart={() => record({ kind: "started", step: step.id })} />
      )}
      {data && !leaving && <Answers verdict={data} />}
      {data && !leaving && (
        <Text c={outside ? "stop" : "held"} fw={700} mt={8} role="status">
          {outside || tr("Within its limit.")} {data.comes && data.answers.length === 0 && <span className="soft">{told(data.comes)}</span>}
        </Text>
      )}
      {outside && adjusts && (
        <p>
          {step.widens
            ? tr("One outside, and all of the group are measured; this sample is kept.")
            : tr("Adjust and measure again; this try is kept.")}
        </p>
      )}
      {outside && step.back && <p>{tr("Then from here again: {back}.", { back: told(step.back) })}</p>}
      <Refusal error={verdict.error} />
      {never && !leaving && <p>{tr("Outside this limit it is never kept. Put it right first; this try can be noted.")}</p>}
      {wantsReason && (
        <Textarea
          mt={10}
          name="reason"
          label={
            leaving
              ? tr("Why it is left undone. It stands first on the record.")
              : tr("Why it is kept outside its limit. It stands first on the record.")
          }
          value={reason}
          onChange={setReason}
        />
      )}
      {who && <p className="soft">{tr("{who} answers for it with their PIN.", { who: sentence(article(who)) })}</p>}
      {tick === undefined &&
        (bySpace && !leaving ? (
          <Act
            act={unseen ? tr("Seen") : told(step.act)}
            hint={unseen ? tr("space bar or pedal; held, the next ones too") : ready && tr("space bar")}
            disabled={!unseen && !ready}
            data-act="main"
            {...hold}
          />
        ) : never && !leaving ? (
          <Act act={tr("Note this try")} kind="stop" onClick={keepTry} data-act="try" />
        ) : (
          <Act
            act={leaving ? tr("Leave it undone") : outside ? keeps(step, adjusts) : told(step.act)}
            hint={ready && tr("space bar")}
            disabled={!ready}
            onClick={act}
            data-act="main"
          />
        ))}
      <div className={classes.also}>
        {outside && !adjusts && !never && !leaving && (
          <button type="button" className="link" onClick={keepTry} data-act="try">
            {tr("Note it as a try, and measure again")}
          </button>
        )}
        {tick === undefined && step.compares.some((c) => c.compared) && matched && (
          <button type="button" className="link" onClick={() => record(content({ tried: true }))} data-act="mismatch">
            {tr("They do not match: note it")}
          </button>
        )}
        {!step.must && whole && tick === undefined && (
          <button type="button" className="link" onClick={() => setLeaving(!leaving)} data-act="leave">
            {leaving ? tr("Go back to it") : step.places > 0 ? tr("It cannot be measured") : tr("It is not so")}
          </button>
        )}
        {!step.must && tick !== undefined && (
          <Leave
            step={step}
            what={current?.part || current?.text}
            onLeave={(why) => {
              const left: DoneContent = { kind: "done", step: step.id, item: tick, skipped: true, reason: why };
              if (step.beyond) setAsking(left);
              else record(left);
            }}
          />
        )}
        <Photo joint={joint} run={run} step={step} />
        {(step.id === "kit" || step.does === "place") && (
          <a href={`/api/joints/${joint.id}/kit`} download className="link">
            {tr("Parts and kit to print")}
          </a>
        )}
      </div>
      <Photos run={run} step={step.id} />
      {asking && (
        <Pin
          by={step.by || step.beyond}
          title={tr("For {by}", { by: article(step.by || step.beyond) })}
          act={tr("It is so")}
          {...withPin}
          onClose={() => {
            withPin.takeBack();
            setAsking(undefined);
          }}
          onPin={(pin, { as }) => withPin.send(asking, { pin, as, ...(asking.readings ? from : {}) })}
        >
          <p>
            <Told text={step.text} />
          </p>
          {asking.reason && <p>{tr("Because: {reason}", { reason: asking.reason })}</p>}
        </Pin>
      )}
    </Panel>
  );
}

/** What the part in hand is for. */
function PartFor({ run, part }: { run: Run; part: string }) {
  const p = run.stack?.parts.find((x) => x.name === part);
  if (!p?.for) return null;
  return (
    <span className="soft">
      <Told text={p.for} as={(s) => `${sentence(s)}.`} />
    </span>
  );
}

function asideOf(step: Step) {
  if (step.by) return tr("for {by}, with their PIN", { by: article(step.by) });
  if (step.release) return tr("then released by {release}", { release: article(step.release) });
  return step.must ? tr("must") : undefined;
}

function tickWords(step: Step, part?: string) {
  if (part) return tr("It is in, this way round");
  return step.id === "kit" ? tr("It is here") : told(step.act);
}

/** What the button says of a reading that lies outside. */
function keeps(step: Step, adjusts: boolean) {
  if (step.widens) return tr("Keep it, and measure all");
  return adjusts ? tr("Keep this try") : tr("Keep it as a deviation");
}

/** Which bolts a sample is measured of, and why those. */
function sampleWords(step: Step) {
  const why = step.tries.length > 0 ? tr("because one of the sample lay outside") : tr("as they are so few");
  if (!step.widens) return tr("All {sample} of the {sampleOf}, {why}.", { sample: step.sample.length, sampleOf: told(step.sampleOf), why });
  return tr("A tenth of the {sampleOf}, at least two; the worst positions first.", { sampleOf: told(step.sampleOf) });
}
