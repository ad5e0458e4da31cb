import { Button, SegmentedControl } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { http, take } from "../../api/client";
import { useMay, useSession } from "../../api/queries";
import type { Gaps, Joint, Run } from "../../api/types";
import { useOutbox, useOutboxState } from "../../app/context";
import { Ring } from "../../drawing/Ring";
import { millimetres, number, readNumber } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { Nothing } from "../Nothing";
import classes from "./prove.module.css";

/** Station four: what has to be shown before the joint is signed. */
export function Prove({ joint }: { joint: Joint }) {
  if (!joint.plan || !joint.run) return <Nothing joint={joint} what="No plan is issued yet, so there is nothing to prove." station={1} act="Lay out" />;
  return <Proofs joint={joint} run={joint.run} />;
}

function Proofs({ joint, run }: { joint: Joint; run: Run }) {
  const navigate = useNavigate();
  const may = [useMay("fitter"), useMay("inspector")].some(Boolean) && run.signatures.length === 0;
  const { begun } = run;
  const proving = run.stage === "prove" || run.stage === "sign";
  const [phase, setPhase] = useState<string>(begun ? "after" : "before");
  const chosen = phase as "before" | "after";
  const open = chosen === "before" ? !begun : proving;
  return (
    <div className={classes.prove}>
      <GapDrawing key={chosen} joint={joint} run={run} phase={chosen} open={open && may} />
      <div className={classes.right}>
        <SegmentedControl
          value={phase}
          onChange={setPhase}
          size="md"
          fullWidth
          data={[
            { value: "before", label: "gap before" },
            { value: "after", label: "gap after" },
          ]}
        />
        <Rounds run={run} joint={joint} />
        <GapPanel title="Gap before" gaps={run.gapBefore} missing={begun ? "Not measured. The record shows it." : "Measure it at the four quarters before the first pull."} />
        <GapPanel title="Gap after" gaps={run.gapAfter} missing={proving ? "Measure it at the same four places." : "When a whole check round has moved nothing."} judged />
        {!begun && run.gapBefore && (
          <Button color="now" size="lg" onClick={() => void navigate(`/joint/${joint.id}/3`)} className={classes.goOn}>
            Tighten
          </Button>
        )}
        {run.stage === "sign" && (
          <Button color="held" size="lg" onClick={() => void navigate(`/joint/${joint.id}/5`)} className={classes.goOn}>
            Sign
          </Button>
        )}
      </div>
    </div>
  );
}

function Rounds({ run, joint }: { run: Run; joint: Joint }) {
  const navigate = useNavigate();
  const holds = run.nothingMoves;
  return (
    <Panel kind={holds ? "held" : "mind"} title="Nothing moves">
      {run.rounds.length === 0 && (
        <p>
          No check round yet.{" "}
          <button type="button" className={classes.link} onClick={() => void navigate(`/joint/${joint.id}/3`)}>
            Tighten
          </button>
        </p>
      )}
      <ul>
        {run.rounds.map((r) => (
          <li key={r.number}>
            Round {r.number}: {r.done} of {run.bolts.length} tried, {r.moved.length === 0 ? "none moved" : `bolt ${r.moved.join(", ")} moved`}
            {r.interrupted && "; does not count, a bolt was made again"}
          </li>
        ))}
      </ul>
      {holds && <p className={classes.verdict}>Holds: a whole round moved no nut.</p>}
    </Panel>
  );
}

function GapPanel({ title, gaps, missing, judged }: { title: string; gaps?: Gaps; missing: string; judged?: boolean }) {
  if (!gaps) {
    return (
      <Panel title={title} kind={judged ? "mind" : undefined}>
        <p>{missing}</p>
      </Panel>
    );
  }
  return (
    <Panel title={title} aside={`by ${gaps.by}`} kind={gaps.parallel ? "held" : judged ? "stop" : "mind"}>
      <p className="mono">{gaps.values.map((v) => millimetres(v)).join(" · ")} mm, from 12 o’clock</p>
      <Verdict v={gaps} />
    </Panel>
  );
}

function Verdict({ v }: { v: Pick<Gaps, "spread" | "limit" | "parallel" | "openSide" | "tilt"> }) {
  return (
    <p className={classes.verdict} data-bad={!v.parallel || undefined}>
      {v.parallel ? "Parallel" : `Not parallel, open at ${v.openSide}`}: spread <span className="mono">{millimetres(v.spread)}</span> mm of <span className="mono">{millimetres(v.limit)}</span> mm, tilt {number(Math.round(v.tilt * 1000) / 1000)}°.
    </p>
  );
}

const hours = [12, 3, 6, 9];

/** The joint with a field at each of its four quarters. */
function GapDrawing({ joint, run, phase, open }: { joint: Joint; run: Run; phase: "before" | "after"; open: boolean }) {
  const outbox = useOutbox();
  const session = useSession();
  const { acts } = useOutboxState();
  const stored = phase === "before" ? run.gapBefore : run.gapAfter;
  const [typed, setTyped] = useState(["", "", "", ""]);
  const values = typed.map((t) => readNumber(t));
  const full = values.every((v) => v !== undefined);
  const verdict = useQuery({
    queryKey: ["gaps", joint.id, values],
    queryFn: () => take(http.POST("/api/joints/{joint}/gaps", { params: { path: { joint: joint.id } }, body: { gaps: values as number[] } })),
    enabled: full,
    retry: false,
  });
  const sending = acts.some((a) => a.run === run.id && a.entry.kind === "measurement" && !a.problem);
  const refused = acts.find((a) => a.run === run.id && a.entry.kind === "measurement" && a.problem);
  return (
    <form
      className={classes.gaps}
      onSubmit={(e) => {
        e.preventDefault();
        if (full && !refused) void outbox.add(joint.id, run.id, session!.person.id, "measurement", { phase, gaps: values as number[] }).then(() => setTyped(["", "", "", ""]));
      }}
    >
      <b className={classes.where}>Seen from the nut side. Gap {phase}, mm, at the four quarters</b>
      <div className={classes.face}>
        <Ring title="The joint with its gaps" bolts={run.bolts} onCentre={joint.plan!.input.onCentre} />
        {hours.map((h, i) => (
          <label key={h} className={classes.gap} data-hour={h}>
            <span className="visually-hidden">Gap at {h} o’clock, mm</span>
            {open ? (
              <input
                className="mono"
                inputMode="decimal"
                autoComplete="off"
                name={`gap${h}`}
                placeholder={stored ? millimetres(stored.values[i] ?? 0) : `at ${h}`}
                value={typed[i]}
                aria-invalid={typed[i] !== "" && values[i] === undefined}
                onChange={(e) => setTyped(typed.with(i, e.currentTarget.value))}
              />
            ) : (
              <output className="mono">{stored ? millimetres(stored.values[i] ?? 0) : "–"}</output>
            )}
          </label>
        ))}
      </div>
      {open && (
        <div className={classes.keep}>
          {verdict.data && <Verdict v={verdict.data} />}
          {verdict.isError && <Refusal error={verdict.error} />}
          {refused?.problem && (
            <div className={classes.refused}>
              <Refusal problem={refused.problem} />
              <Button variant="default" onClick={() => void outbox.takeBack(refused.no!)}>
                Take it back
              </Button>
            </div>
          )}
          <Button type="submit" color="now" size="lg" loading={sending} disabled={!full || verdict.isError || Boolean(refused)}>
            {stored ? "Keep, in place of the one before" : "Keep these gaps"}
          </Button>
        </div>
      )}
    </form>
  );
}
