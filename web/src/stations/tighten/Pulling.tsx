import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import type { ahead } from "../../api/ahead";
import { useSession } from "../../api/queries";
import type { Act, EntryContent, Joint, Quantity, Run } from "../../api/types";
import { useOutbox } from "../../app/context";
import { useKeys } from "../../app/keys";
import { number } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { ScaleView } from "../../ui/ScaleView";
import { PauseDialog } from "./PauseDialog";
import { ReadingDialog } from "./ReadingDialog";
import { TroubleDialog } from "./TroubleDialog";
import classes from "./tighten.module.css";

/** A pedal that bounces is one press: a second within this time, ms, is not taken. */
const BOUNCE = 200;

interface PullingProps {
  joint: Joint;
  run: Run;
  shown: ReturnType<typeof ahead>;
  next: Act;
}

/** The next bolt, in words and as the wrench's scale, and the one large act. */
export function Pulling({ joint, run, shown, next }: PullingProps) {
  const outbox = useOutbox();
  const session = useSession();
  const last = useRef(0);
  const [ready, setReady] = useState(true);
  const [open, setOpen] = useState<"reading" | "trouble" | "pause">();
  const checking = next.round > 0;
  const tool = run.tooling![next.pass - 1]!;
  const before = checking ? undefined : run.tooling![next.pass - 2];
  const change = before && run.passDone + shown.waiting === 0 && before.tools.join() !== tool.tools.join();

  function act(more: EntryContent) {
    const now = performance.now();
    if (now - last.current < BOUNCE) return;
    last.current = now;
    setReady(false);
    setTimeout(() => setReady(true), BOUNCE);
    const content: EntryContent = checking ? { bolt: next.bolt, round: next.round, moved: false, ...more } : { bolt: next.bolt, pass: next.pass, ...more };
    void outbox.add(joint.id, run.id, session!.person.id, checking ? "check" : "pull", content);
  }

  const main = () => act({});
  useKeys({
    " ": main,
    Enter: main,
    PageDown: main,
    r: () => setOpen("reading"),
    t: () => setOpen("trouble"),
    p: () => setOpen("pause"),
    ...(checking ? { m: () => act({ moved: true }), n: main } : { n: () => act({ noTurn: true }) }),
  });
  const pull = checking ? (run.rounds.find((r) => r.number === next.round)?.done ?? 0) : run.passDone;
  return (
    <>
      <Panel className={classes.now}>
        <div className={classes.nowLine}>
          <span className={classes.nowWord}>Now</span>
          <b className={`mono ${classes.nowBolt}`} data-next-bolt={next.bolt} data-next-pass={next.pass} data-next-round={next.round} aria-live="polite">
            bolt {next.bolt}
          </b>
          <span className="soft">at {run.bolts[next.bolt - 1]?.place}</span>
        </div>
        {change && (
          <p className={classes.change} role="status">
            Another tool for this pass: take <b>{tool.tools.join(" and ")}</b>, put {before!.tools.join(" and ")} down.
          </p>
        )}
        <div className={classes.nowScale}>
          <ScaleView tool={tool} />
        </div>
        <p className={classes.nowShort}>
          <b className="mono">
            {number(tool.setting.value)} {tool.setting.unit}
          </b>{" "}
          on {tool.tools.join(" + ")}, {checking ? `check round ${next.round}` : `pass ${next.pass} of ${run.passes}`}
        </p>
      </Panel>
      <button type="button" className={classes.act} onClick={main} data-act="main" data-ready={ready}>
        <b>{checking ? "No turn" : "It clicked"}</b>
        <span>{checking ? "it clicked and the nut did not move; space bar" : "space bar or foot pedal"}</span>
      </button>
      <div className={classes.more}>
        <button type="button" onClick={() => setOpen("reading")}>
          Type reading <kbd>R</kbd>
        </button>
        {checking ? (
          <button type="button" onClick={() => act({ moved: true })} data-act="moved">
            It moved <kbd>M</kbd>
          </button>
        ) : (
          <button type="button" onClick={() => act({ noTurn: true })} data-act="noturn">
            No turn <kbd>N</kbd>
          </button>
        )}
        <button type="button" className={classes.troubleAct} onClick={() => setOpen("trouble")}>
          Trouble <kbd>T</kbd>
        </button>
      </div>
      <div className={classes.then}>
        <span className="soft">Then</span>
        <span className="mono">{shown.after.map((a) => a.bolt).join(" · ") || "the check round"}</span>
        <span className={`soft ${classes.count}`}>
          pull {pull + shown.waiting + 1} of {run.bolts.length}
        </span>
        <Button variant="subtle" color="quiet" onClick={() => setOpen("pause")} className={classes.pause}>
          Pause
        </Button>
      </div>
      {open === "reading" && (
        <ReadingDialog
          title={`Bolt ${next.bolt}: what the wrench reads`}
          setting={tool.setting}
          checking={checking}
          onClose={() => setOpen(undefined)}
          onReading={(reading: Quantity, moved) => {
            setOpen(undefined);
            act(checking ? { reading, moved } : { reading });
          }}
        />
      )}
      {open === "trouble" && <TroubleDialog joint={joint} run={run} bolt={next.bolt} onClose={() => setOpen(undefined)} />}
      {open === "pause" && <PauseDialog joint={joint} run={run} onClose={() => setOpen(undefined)} />}
    </>
  );
}
