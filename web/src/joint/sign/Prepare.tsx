import { Button, Group, Stack, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Waiting } from "../../api/outbox";
import { type Shown, useSession } from "../../api/queries";
import type { Run } from "../../api/types";
import { useOutbox, useOutboxState, usePrepare } from "../../app/context";
import { dateTime } from "../../ui/format";
import { Dialog } from "../../ui/Form";
import { Panel } from "../../ui/Panel";
import { Pin } from "../../ui/Pin";
import { Refusal } from "../../ui/Refusal";

interface PrepareProps {
  joint: Shown;
  run: Run;
  part: "made" | "checked";
  /** Asks for a reason too: its label. */
  reason?: string;
  onClose: () => void;
}

/** Prepares a signature where no server is there to look at a PIN: what is on the screen now is what will be signed. */
export function Prepare({ joint, run, part, reason, onClose }: PrepareProps) {
  const me = useSession();
  const prepare = usePrepare(joint.id, run);
  const [why, setWhy] = useInputState("");
  return (
    <Dialog
      title={`Prepare to sign that ${joint.tag} was ${part}`}
      act="Prepare"
      color="held"
      ready={!reason || why.trim() !== ""}
      onClose={onClose}
      onAct={() => {
        prepare({ kind: "signature", part, ...(why.trim() ? { reason: why.trim() } : {}) });
        onClose();
      }}
    >
      <p>
        As {me?.person.name}, over the {run.entries} entries that you see now.{" "}
        {run.deviations.length === 0 ? "No deviations." : `${run.deviations.length} deviations are listed on the record.`}
      </p>
      <p>Only the server can look at your PIN: it is asked for there. If anything was added by then, you look again before you sign.</p>
      {reason && <Textarea label={reason} value={why} onChange={setWhy} minRows={2} name="reason" />}
    </Dialog>
  );
}

/** A signature that waits for its PIN. */
export function Prepared({ joint, act: w }: { joint: Shown; act: Waiting }) {
  const outbox = useOutbox();
  const { online, acts } = useOutboxState();
  const [asking, setAsking] = useState(false);
  const before = acts.filter((a) => a.run === w.run && (a.no ?? 0) < (w.no ?? 0)).length;
  const no = w.no;
  if (no === undefined || w.entry.content.kind !== "signature") return null;
  const there = online && before === 0;
  return (
    <Panel kind={w.problem ? "stop" : "mind"} title={w.problem ? "Not signed" : "Prepared, not signed"}>
      <Stack gap={10}>
        {w.problem ? (
          <Refusal problem={w.problem} />
        ) : (
          <p className="big" data-prepared={there ? "ready" : "waits"}>
            Prepared {dateTime(w.entry.at)}, over {w.entry.onto} entries.{" "}
            {there ? "Enter your PIN, and it is signed." : "It waits for the server, and then for your PIN."}
          </p>
        )}
        <Group grow gap={10}>
          {there && !w.problem && (
            <Button color="held" onClick={() => setAsking(true)} data-act="pin">
              Enter the PIN
            </Button>
          )}
          <Button
            color="plan"
            variant={there && !w.problem ? "outline" : "filled"}
            onClick={() => void outbox.takeBack(no)}
            data-act="take-back"
          >
            {w.problem ? "Look again" : "Take it back"}
          </Button>
        </Group>
      </Stack>
      {asking && (
        <Pin
          title={`Sign that ${joint.tag} was ${w.entry.content.part}`}
          act="Sign"
          busy={!w.lacksPin && !w.problem}
          onClose={() => setAsking(false)}
          onPin={(pin) => {
            setAsking(false);
            void outbox.settle(no, { pin });
          }}
        >
          <p>What you saw when you prepared it is what you sign.</p>
        </Pin>
      )}
    </Panel>
  );
}
