import { Button, Group, Stack } from "@mantine/core";
import { useEffect, useState } from "react";
import type { Waiting } from "../../api/outbox";
import type { EntryContent, Run } from "../../api/types";
import { useOutbox, useOutboxState } from "../../app/context";
import { signal } from "../../app/signal";
import { Pin } from "../../ui/Pin";
import { Refusal } from "../../ui/Refusal";
import { Reasoned } from "../steps/Stopped";
import { article } from "../words";
import { tr } from "../../words/words";

/** An act that the server would not take, or that waits for its PIN, and the question it leaves. */
export function Refusals({ acts, run }: { acts: readonly Waiting[]; run: Run }) {
  const w = acts.find((a) => a.run === run.id && (a.problem || a.lacksPin));
  return w?.no === undefined ? null : <Left key={w.entry.id} act={w} no={w.no} run={run} />;
}

function Left({ act: w, no, run }: { act: Waiting; no: number; run: Run }) {
  const outbox = useOutbox();
  const [asking, setAsking] = useState(false);
  const back = () => void outbox.takeBack(no);
  const asked = w.problem?.code === "asked";
  const tool = w.problem?.code === "out-of-date" ? toolOf(run, w.entry.content) : undefined;
  const { content } = w.entry;
  const why = w.problem?.code;
  const twice = why === "twice";
  // Somebody else took the tool up, of which this device could not know.
  const takenUp = w.problem?.field === "setting";
  const behind = useOutboxState().acts.filter((a) => a.run === w.run && (a.no ?? 0) > no).length;
  useEffect(() => {
    if (why) signal("refused");
  }, [why]);
  const by = content.kind === "done" ? run.steps.find((s) => s.id === content.step)?.by || undefined : undefined;
  return (
    <Stack gap={8}>
      {w.problem ? (
        <Refusal problem={w.problem} />
      ) : (
        <p role="alert">{tr("An act was not sent, and its PIN is not kept. Enter it again, or take the act back.")}</p>
      )}
      {twice && behind > 0 && (
        <p>
          {tr("{count} more acts wait behind it. What of that was done by others too is kept the same way, the rest as usual.", {
            count: behind,
          })}
        </p>
      )}
      <Group grow gap={10}>
        {(twice || takenUp) && (
          <Button color="held" onClick={() => void outbox.keepApart(w.run)} data-act="apart">
            {twice ? tr("I did it too: keep that") : tr("It was set: keep that")}
          </Button>
        )}
        {asked && (
          <Button color="stop" variant="outline" onClick={() => void outbox.settle(no, { confirmed: true })} data-act="confirm">
            {tr("It is right, keep it")}
          </Button>
        )}
        {w.lacksPin && (
          <Button color="held" onClick={() => setAsking(true)} data-act="pin">
            {tr("Enter the PIN")}
          </Button>
        )}
        <Button color="plan" variant={twice || takenUp ? "outline" : "filled"} onClick={back} data-act="take-back">
          {asked ? tr("Look again") : tr("Take it back")}
        </Button>
      </Group>
      {tool && <Overdue tool={tool} run={run} act={w} onDecided={back} />}
      {asking && (
        <Pin
          by={by}
          title={by ? tr("For {by}", { by: article(by) }) : tr("Your PIN again")}
          act={tr("Send it")}
          problem={w.problem}
          onClose={() => setAsking(false)}
          onPin={(pin, { as }) => {
            setAsking(false);
            void outbox.settle(no, { pin, ...(as ? { as } : {}) });
          }}
        >
          <p>{tr("The act is sent again as it was.")}</p>
        </Pin>
      )}
    </Stack>
  );
}

/** The tag of the tool that an act is made with. */
function toolOf(run: Run, content: EntryContent) {
  if (content.kind !== "done" && content.kind !== "setting") return undefined;
  const group = content.kind === "setting" ? content.group : run.steps.find((s) => s.id === content.step)?.group;
  return run.groups.find((g) => g.name === group)?.tooling?.find((t) => t.share === content.share)?.tools[0];
}

/** A tool past its date: an engineer may let it be used for this joint, with a reason. */
function Overdue({ tool, run, act: w, onDecided }: { tool: string; run: Run; act: Waiting; onDecided: () => void }) {
  const outbox = useOutbox();
  return (
    <Reasoned
      label={tr("Why {tool} may be used on this joint past its date. It stands first on the record.", { tool })}
      act={tr("Let it be used")}
      onReason={(reason) => {
        onDecided();
        void outbox.add(w.joint, run.id, w.person, { kind: "decision", tool, reason });
      }}
    />
  );
}
