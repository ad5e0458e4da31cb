import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import { useSession } from "../../api/queries";
import type { EntryContent, JobAct, JobRun, LedJoint, Quantity } from "../../api/types";
import { useOutbox, useOutboxState } from "../../app/context";
import { useKeys } from "../../app/keys";
import { number } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { ScaleView } from "../../ui/ScaleView";
import { PauseDialog } from "../tighten/PauseDialog";
import { ReadingDialog } from "../tighten/ReadingDialog";
import tighten from "../tighten/tighten.module.css";
import { TroubleDialog } from "../tighten/TroubleDialog";
import { CautionPanel } from "./CautionPanel";
import classes from "./led.module.css";
import { TurnDial } from "./TurnDial";
import { window as windowOf } from "./LedToolUp";
import { turnWords } from "./words";

/** A pedal that bounces is one press: a second within this time, ms, is not taken. */
const BOUNCE = 200;

interface PullProps {
  joint: LedJoint;
  run: JobRun;
  next: JobAct;
  after: JobAct[];
}

/** The next bolt, in words and as the hand sees its tool, and the one large act. */
export function Pull({ joint, run, next, after }: PullProps) {
  const outbox = useOutbox();
  const session = useSession();
  const { acts } = useOutboxState();
  const last = useRef(0);
  const [ready, setReady] = useState(true);
  const [open, setOpen] = useState<"reading" | "trouble" | "pause">();
  const group = run.groups.find((g) => g.name === next.group)!;
  const step = run.steps.find((s) => s.id === next.step)!;
  const tool = group.tooling?.[Math.max(0, group.stages.indexOf(next.share))];
  const round = next.round > 0;
  const portion = round && next.turn > 0;
  const sent = acts.some((a) => a.run === run.id && a.entry.kind === "caution" && a.entry.content.step === step.id);
  const cautioned = step.cautioned || sent;

  function act(more: EntryContent) {
    const now = performance.now();
    if (now - last.current < BOUNCE) return;
    last.current = now;
    setReady(false);
    setTimeout(() => setReady(true), BOUNCE);
    const { step: id, bolt, share, turn, stroke, lock, round: number_ } = next;
    void outbox.add(joint.id, run.id, session!.person.id, "step", { step: id, bolt, share, turn, stroke, lock, round: number_, ...(round ? { moved: false } : {}), ...more }, true);
  }
  const caution = () => void outbox.add(joint.id, run.id, session!.person.id, "caution", { step: step.id }, true);
  // Where it is turned by portions, the act that goes wrong least is the turn: it only makes another round.
  const main = () => (cautioned ? act(portion ? { moved: true } : {}) : caution());
  useKeys({
    " ": main,
    Enter: main,
    PageDown: main,
    p: () => setOpen("pause"),
    ...(cautioned && !next.lock ? { t: () => setOpen("trouble") } : {}),
    ...(cautioned && tool && !next.lock ? { r: () => setOpen("reading") } : {}),
    ...(cautioned && round ? { m: () => act({ moved: true }), n: () => act({}) } : {}),
  });

  if (!cautioned) return <CautionPanel step={step} onRead={caution} />;
  const words = actWords(next, group.how, run.undoes, group.lock);
  return (
    <>
      <Panel className={tighten.now}>
        <div className={tighten.nowLine}>
          <span className={tighten.nowWord}>Now</span>
          <b className={`mono ${classes.nowName}`} data-long={name(next, group.one, group.count).length > 13 || undefined} data-next-bolt={next.bolt} data-next-group={next.group} data-next-round={next.round} data-next-lock={next.lock || undefined} aria-live="polite">
            {name(next, group.one, group.count)}
          </b>
          <span className={classes.nowPlace}>{run.bolts.find((b) => b.group === next.group && b.position === next.bolt)?.place && `at ${run.bolts.find((b) => b.group === next.group && b.position === next.bolt)?.place}`}</span>
        </div>
        <p className={classes.stepText}>{step.text}</p>
        {next.lock ? (
          <p className={classes.lockWords}>{group.lock}</p>
        ) : group.how === "turns" ? (
          <TurnDial degrees={next.turn} back={run.undoes} />
        ) : tool ? (
          <>
            <div className={tighten.nowScale}>
              <ScaleView tool={tool} />
            </div>
            <p className={classes.windowWords}>
              <b className="mono">
                {number(tool.setting.value)} {tool.setting.unit}
              </b>{" "}
              on {tool.tools.join(" + ")}, for {windowOf(group)}
              {next.share < 100 && `: ${number(next.share)} %`}
              {portion && <>; {turnWords(next.turn)} at most</>}
            </p>
          </>
        ) : next.aim ? (
          <p className={classes.lockWords}>
            pump at {number(next.aim.value)} {next.aim.unit}
            {next.share > 0 && next.share < 100 && <span className="soft"> ({number(next.share)} %)</span>}
          </p>
        ) : null}
      </Panel>
      <div className={classes.mains} data-two={portion || undefined}>
        <button type="button" className={tighten.act} onClick={main} data-act="main" data-ready={ready}>
          <b>{words.act}</b>
          <span>{words.hint}</span>
        </button>
        {portion && (
          <button type="button" className={tighten.act} data-kind="held" onClick={() => act({})} data-act="holds">
            <b>It clicked</b>
            <span>it holds; key N</span>
          </button>
        )}
      </div>
      <div className={tighten.more}>
        {tool && !next.lock ? (
          <button type="button" onClick={() => setOpen("reading")}>
            Type reading <kbd>R</kbd>
          </button>
        ) : (
          <span />
        )}
        {round && !portion ? (
          <button type="button" onClick={() => act({ moved: true })} data-act="moved">
            It moved <kbd>M</kbd>
          </button>
        ) : next.lock ? (
          <LeaveLock onLeave={(reason) => act({ skipped: true, reason })} />
        ) : (
          <span />
        )}
        {next.lock ? (
          <span />
        ) : (
          <button type="button" className={tighten.troubleAct} onClick={() => setOpen("trouble")}>
            Trouble <kbd>T</kbd>
          </button>
        )}
      </div>
      <div className={tighten.then}>
        <span className="soft">Then</span>
        <span className={classes.thenWords}>{after.map((a) => (a.lock ? "lock" : a.group === next.group ? a.bolt : a.words)).join(" · ") || "the next step"}</span>
        <Button variant="subtle" color="quiet" onClick={() => setOpen("pause")} className={tighten.pause}>
          Pause
        </Button>
      </div>
      {open === "reading" && tool && (
        <ReadingDialog
          title={`${next.words}: what the tool reads`}
          setting={tool.setting}
          checking={round}
          onClose={() => setOpen(undefined)}
          onReading={(reading: Quantity, moved) => {
            setOpen(undefined);
            act(round ? { reading, moved } : { reading });
          }}
        />
      )}
      {open === "trouble" && <TroubleDialog joint={joint} run={run} bolt={next.bolt} step={next.step} onClose={() => setOpen(undefined)} />}
      {open === "pause" && <PauseDialog joint={joint} run={run} onClose={() => setOpen(undefined)} />}
    </>
  );
}

function name(a: JobAct, one: string, count: number) {
  if (count === 1) return one;
  return /\d$/.test(one) ? `${one}, bolt ${a.bolt}` : `${one} ${a.bolt}`;
}

/** What the large button says of an act, and what it means. */
function actWords(a: JobAct, how: string, undoes: boolean, lock: string) {
  if (a.lock) return { act: "Locked", hint: `${lock}; space bar` };
  if (a.round > 0 && a.turn > 0) return { act: "Turned, no click", hint: `${turnWords(a.turn)}; space bar` };
  if (a.round > 0) return { act: "No turn", hint: "it clicked and did not move; space bar" };
  if (how === "turns") return { act: undoes ? "Turned back" : "Turned", hint: "to the mark and no further; space bar" };
  if (how === "pressure") return { act: "It stalled", hint: "no turn at a stall; space bar or foot pedal" };
  if (how === "hand") return { act: undoes ? "Turned" : "Run down by hand", hint: "space bar or foot pedal" };
  if (how === "not torqued") return { act: "Home, not torqued", hint: "space bar or foot pedal" };
  return { act: "It clicked", hint: "space bar or foot pedal" };
}

/** A lock that cannot be put on: with a reason, which the record shows first. */
function LeaveLock({ onLeave }: { onLeave: (reason: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  if (!asking) {
    return (
      <button type="button" onClick={() => setAsking(true)} data-act="leave">
        It is not locked
      </button>
    );
  }
  return (
    <form
      className={classes.leaveLock}
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim()) onLeave(reason.trim());
      }}
    >
      <input value={reason} onChange={(e) => setReason(e.currentTarget.value)} placeholder="Why not?" aria-label="Why it is not locked" name="reason" maxLength={500} ref={(el) => el?.focus()} />
      <Button type="submit" color="stop" variant="outline" disabled={!reason.trim()}>
        Leave it
      </Button>
    </form>
  );
}
