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
import { tr } from "../../words/words";

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
      title={
        part === "made"
          ? tr("Prepare to sign that {tag} was made", { tag: joint.tag })
          : tr("Prepare to sign that {tag} was checked", { tag: joint.tag })
      }
      act={tr("Prepare")}
      color="held"
      ready={!reason || why.trim() !== ""}
      onClose={onClose}
      onAct={() => {
        prepare({ kind: "signature", part, ...(why.trim() ? { reason: why.trim() } : {}) });
        onClose();
      }}
    >
      <p>
        {tr("As {person}, over the {count} entries that you see now. {deviations}", {
          person: me?.person.name,
          count: run.entries,
          deviations:
            run.deviations.length === 0
              ? tr("No deviations.")
              : tr("{count} deviations are listed on the record.", { count: run.deviations.length }),
        })}
      </p>
      <p>
        {tr("Only the server can look at your PIN: it is asked for there. If anything was added by then, you look again before you sign.")}
      </p>
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
    <Panel kind={w.problem ? "stop" : "mind"} title={w.problem ? tr("Not signed") : tr("Prepared, not signed")}>
      <Stack gap={10}>
        {w.problem ? (
          <Refusal problem={w.problem} />
        ) : (
          <p className="big" data-prepared={there ? "ready" : "waits"}>
            {tr("Prepared {at}, over {count} entries. {there}", {
              at: dateTime(w.entry.at),
              count: w.entry.onto,
              there: there ? tr("Enter your PIN, and it is signed.") : tr("It waits for the server, and then for your PIN."),
            })}
          </p>
        )}
        <Group grow gap={10}>
          {there && !w.problem && (
            <Button color="held" onClick={() => setAsking(true)} data-act="pin">
              {tr("Enter the PIN")}
            </Button>
          )}
          <Button
            color="plan"
            variant={there && !w.problem ? "outline" : "filled"}
            onClick={() => void outbox.takeBack(no)}
            data-act="take-back"
          >
            {w.problem ? tr("Look again") : tr("Take it back")}
          </Button>
        </Group>
      </Stack>
      {asking && (
        <Pin
          title={
            w.entry.content.part === "made"
              ? tr("Sign that {tag} was made", { tag: joint.tag })
              : tr("Sign that {tag} was checked", { tag: joint.tag })
          }
          act={tr("Sign")}
          busy={!w.lacksPin && !w.problem}
          onClose={() => setAsking(false)}
          onPin={(pin) => {
            setAsking(false);
            void outbox.settle(no, { pin });
          }}
        >
          <p>{tr("What you saw when you prepared it is what you sign.")}</p>
        </Pin>
      )}
    </Panel>
  );
}
