import { Text, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { DoneContent, Joint, Run, Step } from "../../api/types";
import { useRecord, useWatched } from "../../app/context";
import { useKeys } from "../../app/keys";
import { Act } from "../../ui/Act";
import { readNumber } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import { Refusal } from "../../ui/Refusal";
import { article, filled } from "../words";
import { CautionPanel } from "./CautionPanel";
import { HoldTimer } from "./HoldTimer";
import { Limit } from "./Limit";
import { PartsMatched } from "./PartsMatched";
import { ReadingField } from "./ReadingField";
import classes from "./steps.module.css";

interface StepCardProps {
  joint: Joint;
  run: Run;
  step: Step;
  /** Its readings, where they are shown on the drawing too; placed: and have their fields there. */
  drawn?: { typed: string[]; onTyped: (v: string[]) => void; placed: boolean };
}

/** The step that is open: its caution, what to do, what to read, and the one large act. */
export function StepCard({ joint, run, step, drawn }: StepCardProps) {
  const record = useRecord(joint.id, run.id);
  const [reason, setReason] = useInputState("");
  const [leaving, setLeaving] = useState(false);
  const [asking, setAsking] = useState<DoneContent>();
  const [held, setHeld] = useState("");
  const [own, setOwn] = useState<string[]>();
  const { typed, onTyped, placed } = drawn ?? { typed: filled(own, step.spots.length), onTyped: setOwn, placed: false };
  const [marks, setMarks] = useState<Record<string, string>>({});
  const values = typed.map((t) => readNumber(t));
  const numbers = values.filter((v) => v !== undefined);
  const full = step.places === 0 || numbers.length === step.places;
  const minutes = step.hold > 0 ? readNumber(held) : undefined;
  const verdict = useQuery({
    queryKey: ["readings", run.id, run.entries, step.id, values, minutes],
    queryFn: () => {
      const body = { step: step.id, readings: numbers, ...(minutes === undefined ? {} : { held: minutes }) };
      return take(http.POST("/api/runs/{run}/readings", { params: { path: { run: run.id } }, body }));
    },
    enabled: step.places > 0 && full,
    retry: false,
  });
  const outside = verdict.data?.outside ?? "";
  // A reading outside is kept as a try: it is adjusted, or all of the group are measured.
  const adjusts = step.does === "adjust" || step.widens;
  const never = Boolean(verdict.data?.never) && !adjusts;
  const wantsReason = leaving || (outside !== "" && !adjusts);
  const matched = step.parts.every((p) => marks[p.name]?.trim());
  const judged = step.places === 0 || (verdict.data !== undefined && !verdict.isError && !never);
  const complete = full && matched && judged && (step.hold === 0 || minutes !== undefined);
  const ready = (leaving || complete) && (!wantsReason || reason.trim() !== "");

  const emptied = () => adjusts && onTyped(typed.map(() => ""));
  const withPin = useWatched(joint.id, run.id, () => {
    setAsking(undefined);
    emptied();
  });

  function act() {
    if (!ready) return;
    const content: DoneContent = {
      kind: "done",
      step: step.id,
      ...(leaving ? { skipped: true } : {}),
      ...(!leaving && step.places > 0 ? { readings: numbers, ...(step.sample.length > 0 ? { bolts: step.sample } : {}) } : {}),
      ...(minutes !== undefined && !leaving ? { held: minutes } : {}),
      ...(step.parts.length > 0 && !leaving ? { marks: step.parts.map((p) => `${bare(p.name)}: ${marks[p.name]!.trim()}`) } : {}),
      ...(reason.trim() && wantsReason ? { reason: reason.trim() } : {}),
    };
    if (step.by) return setAsking(content);
    record(content);
    emptied();
  }

  useKeys(step.cautioned ? { " ": act } : {});

  if (!step.cautioned) return <CautionPanel step={step} onRead={() => record({ kind: "caution", step: step.id })} />;
  return (
    <Panel kind="now" title={step.word} aside={step.by ? `for ${article(step.by)}, with their PIN` : undefined}>
      <p className="big" data-current={step.id}>
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
      {step.limit.length > 0 && (
        <Text c="plan" fw={700}>
          It must be <Limit step={step} />.
        </Text>
      )}
      {step.sample.length > 0 && <p className="soft">{sampleWords(step)}</p>}
      {step.tries.length > 0 && <p className="soft">Tries: {step.tries.map((t) => t.readings).join(", then ")}</p>}
      {step.places > 0 && !placed && !leaving && (
        <div className={classes.readings}>
          {step.spots.map((p, i) => (
            <ReadingField
              key={p.text || i}
              label={p.text || "Reading"}
              unit={step.unit}
              name={`reading${i + 1}`}
              value={typed[i] ?? ""}
              onChange={(v) => onTyped(typed.with(i, v))}
            />
          ))}
        </div>
      )}
      {step.fromRecord && <p className="soft">Its reading is taken from the record itself.</p>}
      {step.places > 0 && placed && !leaving && <p className="soft">Type the readings on the drawing, in {step.unit}.</p>}
      {step.hold > 0 && !leaving && <HoldTimer minutes={step.hold} value={held} onValue={setHeld} />}
      {verdict.data && !leaving && (
        <Text c={outside ? "stop" : "held"} fw={700} mt={10} role="status">
          {outside || "Within its limit."} {verdict.data.comes && <span className="soft">{verdict.data.comes}</span>}
        </Text>
      )}
      {outside && adjusts && (
        <p>
          {step.widens
            ? "One outside, and all of the group are measured; this sample is kept."
            : "Adjust and measure again; this try is kept."}
        </p>
      )}
      <Refusal error={verdict.error} />
      {never && !leaving && <p>Outside this limit it is never kept. Put it right first.</p>}
      {wantsReason && !(never && !leaving) && (
        <Textarea
          mt={10}
          name="reason"
          label={
            leaving
              ? "Why it is left undone. It stands first on the record."
              : "Why it is kept outside its limit. It stands first on the record."
          }
          value={reason}
          onChange={setReason}
        />
      )}
      <Act
        act={leaving ? "Leave it undone" : outside ? keeps(step, adjusts, never) : step.act}
        hint={ready && "space bar"}
        disabled={!ready}
        onClick={act}
        data-act="main"
      />
      {!step.must && (
        <button type="button" className="link" onClick={() => setLeaving(!leaving)} data-act="leave">
          {leaving ? "Go back to it" : step.places > 0 ? "It cannot be measured" : "It is not so"}
        </button>
      )}
      {asking && (
        <Pin
          by={step.by}
          title={`For ${article(step.by)}`}
          act="It is so"
          {...withPin}
          onClose={() => {
            withPin.takeBack();
            setAsking(undefined);
          }}
          onPin={(pin, { as }) => withPin.send(asking, { pin, as })}
        >
          <p>{step.text}</p>
        </Pin>
      )}
    </Panel>
  );
}

/** What the button says of a reading that lies outside. */
function keeps(step: Step, adjusts: boolean, never: boolean) {
  if (step.widens) return "Keep it, and measure all";
  if (adjusts) return "Keep this try";
  return never ? "Outside: put it right" : "Keep it as a deviation";
}

/** A part's name without its count. */
const bare = (name: string) => name.replace(/^\d+ × /, "");

/** Which bolts a sample is measured of, and why those. */
function sampleWords(step: Step) {
  const why = step.tries.length > 0 ? "because one of the sample lay outside" : "as they are so few";
  if (!step.widens) return `All ${step.sample.length} of the ${step.sampleOf}, ${why}.`;
  return `A tenth of the ${step.sampleOf}, at least two; the worst positions first.`;
}
