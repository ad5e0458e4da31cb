import { Button, SegmentedControl, Textarea } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ahead } from "../../api/ahead";
import { useMay, useSession } from "../../api/queries";
import type { Joint, Run } from "../../api/types";
import { useOutbox, useOutboxState } from "../../app/context";
import { useKeys } from "../../app/keys";
import { Ring } from "../../drawing/Ring";
import { dateTime, number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Nothing } from "../Nothing";
import { Legend } from "./Legend";
import { Pulling } from "./Pulling";
import { Refusals } from "./Refusals";
import { Tape } from "./Tape";
import classes from "./tighten.module.css";

/** Station three: bolt by bolt. */
export function Tighten({ joint }: { joint: Joint }) {
  if (!joint.plan || !joint.run) return <Nothing joint={joint} what="No plan is issued yet." station={1} act="Lay out" />;
  if (!joint.run.tooling) return <Nothing joint={joint} what="No tool is chosen yet." station={2} act="Tool up" />;
  return <Work joint={joint} run={joint.run} />;
}

function Work({ joint, run }: { joint: Joint; run: Run }) {
  const { acts } = useOutboxState();
  const fitter = useMay("fitter");
  const shares = joint.plan!.result.passes.map((p) => p.share);
  const shown = ahead(run, shares, acts);
  const [labels, setLabels] = useState("position");
  const order = new Map(joint.plan!.result.order.map((p, i) => [p, i + 1]));
  const { next } = shown;
  const tool = next && run.tooling![next.pass - 1];
  const bolts = run.bolts.map((b) => {
    const moved = shown.checked.get(b.position);
    return {
      position: b.position,
      level: shown.levels.get(b.position) ?? b.level,
      current: shown.levels.has(b.position) || b.pass >= run.pass,
      mark: moved === undefined ? b.mark : moved ? ("moved" as const) : ("still" as const),
    };
  });
  const round = next?.round ?? 0;
  return (
    <div className={classes.tighten}>
      <section className={classes.left}>
        <header className={classes.viewHead}>
          <b>Nut side, 12 o’clock at the top</b>
          <SegmentedControl
            size="sm"
            value={labels}
            onChange={setLabels}
            data={[
              { value: "position", label: "stamped number" },
              { value: "order", label: "turn order" },
            ]}
          />
        </header>
        <div className={classes.drawing}>
          <Ring
            title={next ? `Bolt ${next.bolt} is next` : "No bolt is next"}
            bolts={bolts}
            onCentre={joint.plan!.input.onCentre}
            labels={labels === "order" ? order : undefined}
            next={next?.bolt}
            then={shown.after[0]?.bolt}
            clock
          />
          {next && tool && (
            <div className={classes.centre} aria-hidden="true">
              <div>
              <span>set {tool.tools[0]} to</span>
              <b>{number(tool.setting.value)}</b>
              <span className={classes.unit}>{tool.setting.unit}</span>
              {tool.tools.length > 1 && <span className={classes.through}>{tool.tools[1]} makes it {torque(tool.lands)} N·m</span>}
              <span>{round > 0 ? `check round ${round}` : `pass ${next.pass} of ${run.passes}, ${number(shares[next.pass - 1] ?? 0)} %`}</span>
              </div>
            </div>
          )}
        </div>
        <Legend checking={round > 0 || run.rounds.length > 0} />
      </section>
      <section className={classes.right}>
        <Refusals acts={acts} run={run} />
        <Now joint={joint} run={run} shown={shown} fitter={fitter} />
        <Tape joint={joint} run={run} waiting={acts.filter((a) => a.run === run.id && !a.problem && !run.tape.some((l) => l.id === a.entry.id))} mayCorrect={fitter} />
      </section>
    </div>
  );
}

function Now({ joint, run, shown, fitter }: { joint: Joint; run: Run; shown: ReturnType<typeof ahead>; fitter: boolean }) {
  const navigate = useNavigate();
  if (run.stage === "stopped") return <Stopped joint={joint} run={run} />;
  if (run.paused) return <Paused joint={joint} run={run} fitter={fitter} />;
  if (shown.held) {
    return (
      <Panel kind="mind" title="Wait">
        <p>The server has to answer before the next bolt is named. What you did is kept on this device.</p>
      </Panel>
    );
  }
  if (!shown.next && (run.stage === "prove" || run.stage === "sign" || run.stage === "signed")) {
    const last = run.rounds.at(-1);
    return (
      <Panel kind="held" title={`Check round ${last?.number ?? ""}`}>
        <p className={classes.done}>A whole round moved nothing. Every bolt holds.</p>
        <Button color="held" size="lg" fullWidth onClick={() => void navigate(`/joint/${joint.id}/4`)} className={classes.goOn}>
          Prove
        </Button>
      </Panel>
    );
  }
  if (!shown.next) return <Panel>One moment.</Panel>;
  if (!fitter) {
    return (
      <Panel title="Next">
        <p className={classes.done}>
          bolt {shown.next.bolt}, {shown.next.round > 0 ? `check round ${shown.next.round}` : `pass ${shown.next.pass} of ${run.passes}`}
        </p>
        <p className="soft">You see the pulls as they come in.</p>
      </Panel>
    );
  }
  if (!run.cautioned) return <Cautions joint={joint} run={run} />;
  return <Pulling joint={joint} run={run} shown={shown} next={shown.next} />;
}

/** The cautions of this step, read once by each person. */
function Cautions({ joint, run }: { joint: Joint; run: Run }) {
  const outbox = useOutbox();
  const session = useSession();
  const { acts } = useOutboxState();
  const sent = acts.some((a) => a.run === run.id && a.entry.kind === "caution");
  const read = () => void outbox.add(joint.id, run.id, session!.person.id, "caution", {});
  useKeys({ " ": read });
  const navigate = useNavigate();
  return (
    <Panel kind="stop" title="Before a wrench touches it">
      <ul className={classes.cautions}>
        {run.cautions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      {!run.gapBefore && !run.begun && (
        <p className={classes.gapBefore}>
          The gap before is not measured yet.{" "}
          <button type="button" className={classes.link} onClick={() => void navigate(`/joint/${joint.id}/4`)}>
            Measure it
          </button>
        </p>
      )}
      <Button color="stop" size="lg" fullWidth loading={sent} onClick={read} className={classes.goOn}>
        Read, and it is so
      </Button>
      <p className={classes.fine}>Dynacor does not replace the maker’s instructions, local codes and the site’s permits.</p>
    </Panel>
  );
}

function Paused({ joint, run, fitter }: { joint: Joint; run: Run; fitter: boolean }) {
  const outbox = useOutbox();
  const session = useSession();
  const p = run.paused!;
  const resume = () => void outbox.add(joint.id, run.id, session!.person.id, "resume", {});
  useKeys(fitter ? { " ": resume } : {});
  return (
    <Panel kind="mind" title="Paused">
      <p className={classes.done}>
        by {p.by}, {dateTime(p.at)}. {p.note}
      </p>
      {p.handOverTo && <p>For {p.handOverTo}.</p>}
      {run.next && (
        <p>
          Next: <b>bolt {run.next.bolt}</b>, {run.next.round > 0 ? `check round ${run.next.round}` : `pass ${run.next.pass} of ${run.passes}`}.
        </p>
      )}
      {fitter && (
        <Button color="now" size="lg" fullWidth onClick={resume} className={classes.goOn}>
          Take it up
        </Button>
      )}
    </Panel>
  );
}

function Stopped({ joint, run }: { joint: Joint; run: Run }) {
  const outbox = useOutbox();
  const session = useSession();
  const engineer = useMay("engineer");
  const [reason, setReason] = useState("");
  return (
    <Panel kind="stop" title="Stopped">
      <p className={classes.done}>{run.allowedRounds} check rounds, and nuts still move.</p>
      <p>Look for a yielding stud, a creeping gasket or a wrong lubricant before another round.</p>
      {engineer ? (
        <form
          className={classes.decide}
          onSubmit={(e) => {
            e.preventDefault();
            void outbox.add(joint.id, run.id, session!.person.id, "decision", { reason });
          }}
        >
          <Textarea label="Why another round may be made" value={reason} onChange={(e) => setReason(e.currentTarget.value)} autosize minRows={2} />
          <Button type="submit" color="now" disabled={reason.trim() === ""}>
            Allow one more round
          </Button>
        </form>
      ) : (
        <p>
          <b>An engineer decides.</b>
        </p>
      )}
    </Panel>
  );
}
