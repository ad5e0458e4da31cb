import { Button, Group, SimpleGrid, Text } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useRef, useState } from "react";
import type { Act, DoneContent, Joint, Run, StageTool } from "../../api/types";
import { useActs, useRecord } from "../../app/context";
import { useKeys } from "../../app/keys";
import { signal } from "../../app/signal";
import { Act as Main } from "../../ui/Act";
import { number } from "../../ui/format";
import { Form } from "../../ui/Form";
import { Panel } from "../../ui/Panel";
import { FaceView } from "../../drawing/faces/Face";
import { CautionPanel } from "../steps/CautionPanel";
import { ofHand } from "../bolts";
import { Num } from "../numbers/Numbers";
import { turnWords } from "../words";
import { LinkedBadge } from "./Linked";
import { PauseDialog } from "./PauseDialog";
import { ReadingDialog } from "./ReadingDialog";
import { RigUp } from "./RigUp";
import { SetTool } from "./SetTool";
import classes from "./tighten.module.css";
import { TroubleDialog } from "./TroubleDialog";
import { TurnDial } from "./TurnDial";
import { Say } from "../../words/Say";
import { Told } from "../../ui/Told";
import { told, tr } from "../../words/words";

/** A pedal that bounces is one press: a second within this time, ms, is not taken. */
const BOUNCE = 200;

interface PullProps {
  joint: Joint;
  run: Run;
  next: Act;
  after: Act[];
  tool?: StageTool;
}

/** The next bolt: its cautions, then its tool taken and set, then the one large act. */
export function Pull({ joint, run, next, after, tool }: PullProps) {
  const record = useRecord(joint.id, run.id);
  const acts = useActs(joint);
  const group = run.groups.find((g) => g.name === next.group);
  const step = run.steps.find((s) => s.id === next.step);
  if (!group || !step) return null;
  const read = acts.some(({ run: id, entry: { content } }) => id === run.id && content.kind === "caution" && content.step === step.id);
  if (!step.cautioned && !read) return <CautionPanel step={step} onRead={() => record({ kind: "caution", step: step.id })} />;
  if (next.set && tool?.pressed)
    return <RigUp key={`${next.share} ${next.hand ?? 0}`} joint={joint} run={run} next={next} group={group} tool={tool} />;
  if (next.set && tool)
    return (
      <SetTool
        joint={joint}
        run={run}
        next={next}
        group={group}
        tool={tool}
        onSet={() => record({ kind: "setting", group: group.name, share: next.share, ...(next.hand ? { hand: next.hand } : {}) })}
      />
    );
  return (
    <Hand
      joint={joint}
      run={run}
      next={next}
      after={after}
      tool={tool}
      text={step.text}
      window={group.window}
      lock={group.lock}
      condition={group.short}
      value={group.value}
    />
  );
}

interface HandProps extends PullProps {
  text: string;
  window: string;
  /** What its lock is; empty where it has none. */
  lock: string;
  /** What its threads and faces have on them, in short. */
  condition: string;
  /** The need that holds what it is turned or pulled to. */
  value: string;
}

/** The next bolt, in words and as the hand sees its tool, and the one large act. */
function Hand({ joint, run, next, after, tool, text, window, lock, condition, value }: HandProps) {
  const record = useRecord(joint.id, run.id);
  const last = useRef(0);
  const [ready, setReady] = useState(true);
  const [open, setOpen] = useState<"reading" | "trouble" | "pause">();
  const { kind } = next;
  const round = next.round > 0;

  function act(more: Partial<DoneContent>) {
    const now = performance.now();
    if (now - last.current < BOUNCE) return;
    last.current = now;
    setReady(false);
    setTimeout(() => setReady(true), BOUNCE);
    const { step, bolt, share, turn, stroke, round: number_ } = next;
    signal(more.moved ? "moved" : "held");
    record({ kind: "done", step, bolt, share, turn, stroke, lock: next.lock, round: number_, ...(round ? { moved: false } : {}), ...more });
  }
  // Where it is turned by portions, the act that goes wrong least is the turn: it only makes another round.
  const little = kind === "portion" || kind === "draw";
  const main = () => act(little ? { moved: true } : {});
  const over = () => act(kind === "draw" ? { letGo: true } : {});
  const noTurn = kind === "pull" || (kind === "stall" && tool) ? () => act({ noTurn: true }) : round ? over : undefined;
  useKeys({
    " ": main,
    Enter: main,
    PageDown: main,
    p: () => setOpen("pause"),
    ...(kind === "lock" ? {} : { t: () => setOpen("trouble") }),
    ...(tool && kind !== "lock" ? { r: () => setOpen("reading") } : {}),
    ...(round && kind !== "draw" ? { m: () => act({ moved: true }) } : {}),
    ...(noTurn ? { n: noTurn } : {}),
  });
  const words = actWords(next, lock, tool?.pressed);
  return (
    <>
      <Panel className={classes.now}>
        <Group align="baseline" gap={14} wrap="wrap" fz={18}>
          <span>{tr("Now")}</span>
          <b
            className={`mono ${classes.nowName}`}
            data-long={told(next.name).length > 13 || undefined}
            data-next-bolt={next.bolt}
            data-next-group={next.group}
            data-next-stage={next.stage}
            data-next-round={next.round}
            data-next-lock={next.lock || undefined}
            aria-live="polite"
          >
            {told(next.name)}
          </b>
          <span className={classes.nowPlace}>{next.place && tr("at {place}", { place: told(next.place) })}</span>
        </Group>
        <Text c="dimmed" mb={8}>
          <Told text={text} />
        </Text>
        {kind === "lock" ? (
          <Text fz={26}>{told(lock)}</Text>
        ) : kind === "draw" ? (
          <Text fz={26}>{tr("{turn} at most, then the next one", { turn: turnWords(next.turn) })}</Text>
        ) : kind === "turn" || kind === "back" ? (
          <>
            <TurnDial degrees={next.turn} back={kind === "back"} />
            <p>
              <Say
                of={kind === "back" ? "{turn} back from the mark" : "{turn} on from the mark"}
                with={{
                  turn: (
                    <Num of={next.group} number={`value/${value}`}>
                      <b className="mono">{next.turn}°</b>
                    </Num>
                  ),
                }}
              />
            </p>
          </>
        ) : tool ? (
          <>
            <div className={classes.nowScale}>
              <FaceView face={tool.face} name={tool.tools.join(" + ")} />
            </div>
            <p>
              <Say
                of="{value} on {tools}, for {window}{condition}{share}{most}"
                with={{
                  value: (
                    <Num of={ofHand(next.group, next.hand)} number={`setting/${tool.stage}`}>
                      <b className="mono">
                        {number(tool.setting.value)} {tool.setting.unit}
                      </b>
                    </Num>
                  ),
                  tools: tool.tools.join(" + "),
                  window: told(window),
                  condition: condition && (
                    <>
                      {", "}
                      <b data-condition>{told(condition)}</b>
                    </>
                  ),
                  share: next.share < 100 && `: ${number(next.share)} %`,
                  most: kind === "portion" && tr("; {turn} at most", { turn: turnWords(next.turn) }),
                }}
              />
            </p>
            <LinkedBadge joint={joint} run={run} tool={tool.tools[0]} />
          </>
        ) : next.aim ? (
          <Text fz={26}>
            <Say
              of="pump at {pressure}{share}"
              with={{
                pressure: (
                  <Num of={next.group} number="pressure">
                    {number(next.aim.value)} {next.aim.unit}
                  </Num>
                ),
                share: next.share > 0 && next.share < 100 && (
                  <span className="soft">
                    {" ("}
                    {number(next.share)}
                    {" %)"}
                  </span>
                ),
              }}
            />
          </Text>
        ) : null}
      </Panel>
      <div className={classes.mains} data-two={little || undefined}>
        <Main act={words.act} hint={words.hint} onClick={main} data-act="main" data-ready={ready} />
        {kind === "portion" && <Main act={tr("It clicked")} hint={tr("it holds; key N")} kind="held" onClick={over} data-act="holds" />}
        {kind === "draw" && <Main act={tr("It let go")} hint={tr("it is free; key N")} kind="held" onClick={over} data-act="letgo" />}
      </div>
      <SimpleGrid cols={3} spacing={10} className={classes.more}>
        {tool && kind !== "lock" ? (
          <button type="button" onClick={() => setOpen("reading")}>
            {tr("Type reading")} <kbd>R</kbd>
          </button>
        ) : (
          <span />
        )}
        {kind === "round" && (
          <button type="button" onClick={() => act({ moved: true })} data-act="moved">
            {tr("It moved")} <kbd>M</kbd>
          </button>
        )}
        {(kind === "pull" || (kind === "stall" && tool)) && (
          <button type="button" onClick={noTurn} data-act="noturn">
            {tr("No turn")} <kbd>N</kbd>
          </button>
        )}
        {kind === "lock" && <LeaveLock onLeave={(reason) => act({ skipped: true, reason })} />}
        {!["round", "pull", "lock"].includes(kind) && !(kind === "stall" && tool) && <span />}
        <button type="button" className={classes.troubleAct} onClick={() => setOpen("trouble")}>
          {tr("Trouble")} <kbd>T</kbd>
        </button>
      </SimpleGrid>
      <Panel className={classes.then}>
        <span className="soft">{tr("Then")}</span>
        <span className={classes.thenWords}>
          {after.map((a) => (a.lock ? tr("lock") : a.group === next.group ? a.bolt : told(a.words))).join(" · ") ||
            (run.hands ? tr("the next bolts, all at once") : tr("the next step"))}
        </span>
        <Button variant="subtle" color="quiet" c="var(--ink)" onClick={() => setOpen("pause")}>
          {tr("Pause")}
        </Button>
      </Panel>
      {open === "reading" && tool && (
        <ReadingDialog
          title={tr("{next}: what the tool reads", { next: told(next.words) })}
          setting={tool.setting}
          checking={round}
          onClose={() => setOpen(undefined)}
          onReading={({ moved, ...read }) => {
            setOpen(undefined);
            act(round ? { ...read, moved } : read);
          }}
        />
      )}
      {open === "trouble" && (
        <TroubleDialog
          joint={joint}
          run={run}
          group={next.owner}
          bolt={next.bolt}
          tools={tool ? tool.links.flatMap((l) => l.tag || []) : []}
          onClose={() => setOpen(undefined)}
        />
      )}
      {open === "pause" && <PauseDialog joint={joint} run={run} onClose={() => setOpen(undefined)} />}
    </>
  );
}

const PEDAL = tr("space bar or foot pedal");
const MARK = tr("to the mark and no further; space bar");

/** What the large button says of an act, and what it means. */
function actWords(a: Act, lock: string, pressed?: boolean) {
  const [act, hint] = {
    lock: [tr("Locked"), tr("{lock}; space bar", { lock: told(lock) })],
    portion: [tr("Turned, no click"), tr("{turn}; space bar", { turn: turnWords(a.turn) })],
    draw: [tr("Turned a little"), tr("it still holds; space bar")],
    round: [tr("No turn"), pressed ? tr("it stalled and did not move; space bar") : tr("it clicked and did not move; space bar")],
    turn: [tr("Turned"), MARK],
    back: [tr("Turned back"), MARK],
    stall: [tr("It stalled"), tr("and the socket does not turn; space bar or foot pedal")],
    nut: [tr("Run down firmly"), tr("while it is drawn; space bar or foot pedal")],
    hand: [tr("Run down by hand"), PEDAL],
    off: [tr("Off by hand"), PEDAL],
    home: [tr("Home, not torqued"), PEDAL],
    pull: [tr("It clicked"), PEDAL],
  }[a.kind];
  return { act, hint };
}

/** A lock that cannot be put on: with a reason, which the record shows first. */
function LeaveLock({ onLeave }: { onLeave: (reason: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useInputState("");
  if (!asking) {
    return (
      <button type="button" onClick={() => setAsking(true)} data-act="leave">
        {tr("It is not locked")}
      </button>
    );
  }
  return (
    <Form onSend={() => reason.trim() && onLeave(reason.trim())}>
      <input
        className="field"
        value={reason}
        onChange={setReason}
        placeholder={tr("Why not?")}
        aria-label={tr("Why it is not locked")}
        name="reason"
        maxLength={500}
        ref={(el) => el?.focus()}
      />
      <Button type="submit" color="stop" variant="outline" disabled={!reason.trim()}>
        {tr("Leave it")}
      </Button>
    </Form>
  );
}
