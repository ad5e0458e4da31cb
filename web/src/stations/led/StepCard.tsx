import { Textarea } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { http, sendEntry, take } from "../../api/client";
import { keepRun, useSession } from "../../api/queries";
import type { EntryContent, JobRun, JobStep, LedJoint } from "../../api/types";
import { useOutbox } from "../../app/context";
import { useKeys } from "../../app/keys";
import { readNumber } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { CautionPanel } from "./CautionPanel";
import { HoldTimer } from "./HoldTimer";
import { PartsMatched } from "./PartsMatched";
import classes from "./led.module.css";
import { QualifiedPin } from "./QualifiedPin";

interface StepCardProps {
  joint: LedJoint;
  run: JobRun;
  step: JobStep;
  typed: string[];
  onTyped: (v: string[]) => void;
  /** The readings have their fields on the drawing. */
  placed: boolean;
}

/** What the main button of a step says: the act, as done. */
const acts: Record<string, string> = {
  check: "It is so",
  match: "It matches",
  lubricate: "Lubricated",
  "keep dry": "It is dry",
  place: "Together",
  lock: "Locked and on",
  mark: "Marked",
  measure: "Keep the reading",
  adjust: "Keep the reading",
  charge: "Keep the reading",
  test: "Keep the reading",
  wait: "Keep the time",
};

/** The step that is open: its caution, what to do, what to read, and the one large act. */
export function StepCard({ joint, run, step, typed, onTyped, placed }: StepCardProps) {
  const outbox = useOutbox();
  const session = useSession();
  const queries = useQueryClient();
  const [reason, setReason] = useState("");
  const [leaving, setLeaving] = useState(false);
  const [asking, setAsking] = useState<EntryContent>();
  const [held, setHeld] = useState("");
  const [marks, setMarks] = useState<Record<string, string>>({});
  const values = typed.map((t) => readNumber(t));
  const full = step.places === 0 || (values.length === step.places && values.every((v) => v !== undefined));
  const minutes = step.hold > 0 ? readNumber(held) : undefined;
  const verdict = useQuery({
    queryKey: ["readings", run.id, step.id, values, minutes],
    queryFn: () => take(http.POST("/api/runs/{run}/readings", { params: { path: { run: run.id } }, body: { step: step.id, readings: values as number[], ...(minutes === undefined ? {} : { held: minutes }) } })),
    enabled: step.places > 0 && full,
    retry: false,
  });
  const outside = verdict.data?.outside ?? "";
  // A reading outside is kept as a try: it is adjusted, or all of the group are measured.
  const adjusts = step.does === "adjust" || step.widens;
  const wantsReason = leaving || (outside !== "" && !adjusts);
  const matched = step.parts.every((p) => marks[p.name]?.trim());
  const ready = leaving ? reason.trim() !== "" : full && matched && (step.hold === 0 || minutes !== undefined) && !verdict.isError && (step.places === 0 || verdict.data !== undefined) && (!wantsReason || reason.trim() !== "");

  const withPin = useMutation({
    mutationFn: (v: { content: EntryContent; as: string; pin: string }) =>
      sendEntry(run.id, true, { id: crypto.randomUUID(), kind: "step", at: new Date().toISOString(), content: v.content, pin: v.pin, as: v.as }),
    onSuccess: (r) => {
      keepRun(queries, joint.id, r);
      setAsking(undefined);
    },
  });

  function act() {
    if (!ready) return;
    const content: EntryContent = {
      step: step.id,
      ...(leaving ? { skipped: true } : {}),
      ...(!leaving && step.places > 0 ? { readings: values as number[], ...(step.sample.length > 0 ? { bolts: step.sample } : {}) } : {}),
      ...(minutes !== undefined && !leaving ? { held: minutes } : {}),
      ...(step.parts.length > 0 && !leaving ? { marks: step.parts.map((p) => `${bare(p.name)}: ${marks[p.name]!.trim()}`) } : {}),
      ...(reason.trim() && wantsReason ? { reason: reason.trim() } : {}),
    };
    if (step.by) return setAsking(content);
    void outbox.add(joint.id, run.id, session!.person.id, "step", content, true);
    if (adjusts) onTyped(typed.map(() => ""));
  }

  const caution = () => void outbox.add(joint.id, run.id, session!.person.id, "caution", { step: step.id }, true);
  useKeys({ " ": step.cautioned ? act : caution });

  if (!step.cautioned) return <CautionPanel step={step} onRead={caution} />;
  return (
    <Panel kind="now" title={capitalWords[step.does] ?? step.does} aside={step.by ? `for a ${step.by}, with their PIN` : undefined}>
      <p className={classes.big} data-current={step.id}>
        {step.text}
      </p>
      {step.items.length > 0 && (
        <ol className={classes.items}>
          {step.items.map((i) => (
            <li key={i}>{i}</li>
          ))}
        </ol>
      )}
      {step.parts.length > 0 && !leaving && <PartsMatched parts={step.parts} marks={marks} onMarks={setMarks} />}
      {step.limit && <p className={classes.limit}>It must be {step.limit}.</p>}
      {step.sample.length > 0 && <p className="soft">{sampleWords(step)}</p>}
      {step.tries.length > 0 && <p className="soft">Tries: {step.tries.map((t) => t.readings).join(", then ")}</p>}
      {step.places > 0 && !placed && !leaving && (
        <div className={classes.readings}>
          {step.spots.map((p, i) => (
            <label key={p.text || i}>
              <span>{p.text || "Reading"}</span>
              <span className={classes.withUnit}>
                <input className="mono" inputMode="decimal" autoComplete="off" name={`reading${i + 1}`} value={typed[i] ?? ""} onChange={(e) => onTyped(typed.with(i, e.currentTarget.value))} />
                <span className="mono">{step.unit}</span>
              </span>
            </label>
          ))}
        </div>
      )}
      {step.places > 0 && placed && !leaving && <p className="soft">Type the readings on the drawing, in {step.unit}.</p>}
      {step.hold > 0 && !leaving && <HoldTimer minutes={step.hold} value={held} onValue={setHeld} />}
      {verdict.data && !leaving && (
        <p className={classes.verdict} data-bad={outside !== "" || undefined} role="status">
          {outside || "Within its limit."}
        </p>
      )}
      {outside && adjusts && <p>{step.widens ? "One outside, and all of the group are measured; this sample is kept." : "Adjust and measure again; this try is kept."}</p>}
      {verdict.isError && <Refusal error={verdict.error} />}
      {wantsReason && (
        <Textarea
          className={classes.why}
          name="reason"
          label={leaving ? "Why it is left undone. It stands first on the record." : "Why it is kept outside its limit. It stands first on the record."}
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          autosize
          minRows={1}
          maxLength={500}
        />
      )}
      <button type="button" className={classes.main} disabled={!ready} onClick={act} data-act="main">
        <b>{leaving ? "Leave it undone" : outside && step.widens ? "Keep it, and measure all" : outside && adjusts ? "Keep this try" : wantsReason ? "Keep it as a deviation" : (acts[step.does] ?? "Done")}</b>
        {ready && <span>space bar</span>}
      </button>
      {!step.must && (
        <button type="button" className={classes.leave} onClick={() => setLeaving(!leaving)} data-act="leave">
          {leaving ? "Go back to it" : step.places > 0 ? "It cannot be measured" : "It is not so"}
        </button>
      )}
      {asking && (
        <QualifiedPin
          step={step}
          busy={withPin.isPending}
          error={withPin.error}
          onClose={() => setAsking(undefined)}
          onPin={(as, pin) => withPin.mutate({ content: asking, as, pin })}
        />
      )}
    </Panel>
  );
}

const capitalWords: Record<string, string> = { check: "Check", match: "Match", lubricate: "Lubricate", "keep dry": "Keep dry", place: "Bring together", lock: "Lock", mark: "Mark", measure: "Measure", adjust: "Adjust and measure", charge: "Charge", test: "Test", wait: "Wait" };

/** A part's name without its count. */
const bare = (name: string) => name.replace(/^\d+ × /, "");

/** Which bolts a sample is measured of, and why those. */
function sampleWords(step: JobStep) {
  if (!step.widens) return `All ${step.sample.length} of the ${step.sampleOf}, ${step.tries.length > 0 ? "because one of the sample lay outside" : "as they are so few"}.`;
  return `A tenth of the ${step.sampleOf}, at least two; the worst positions first.`;
}
