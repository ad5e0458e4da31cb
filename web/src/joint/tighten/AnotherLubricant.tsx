import { NativeSelect, Textarea, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useMay, useWords } from "../../api/queries";
import type { Joint, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import { Dialog } from "../../ui/Form";
import { Choose } from "../layout/editors";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** What is on the bolts of which group, as it is chosen; content is what says so, once it is whole. */
export function useAnother(run: Run, group?: string) {
  const torqued = run.groups.filter((g) => g.how === "torque");
  const [on, setOn] = useInputState(torqued.find((g) => g.name === group || g.of === group)?.name ?? torqued[0]?.name ?? "");
  const [is, setIs] = useState("");
  const content = is.trim() === "" ? undefined : { kind: "lubricant" as const, group: on, is: is.trim() };
  return { torqued, on, setOn, is, setIs, content };
}

/** What is on the bolts, where it is not what the plan has. */
export function AnotherFields({ another: a }: { another: ReturnType<typeof useAnother> }) {
  const lubricants = useWords().data?.lubricants ?? [];
  const planned = a.torqued.find((g) => g.name === a.on);
  return (
    <>
      {a.torqued.length > 1 && (
        <NativeSelect
          label={tr("On which")}
          name="on"
          value={a.on}
          onChange={a.setOn}
          data={a.torqued.map((g) => ({ value: g.name, label: told(g.name) }))}
        />
      )}
      <p>
        <Say
          of="The plan has {lubrication}. What is on them?"
          with={{ lubrication: <b>{told(planned?.lubrication) || tr("nothing said")}</b> }}
        />
      </p>
      <Choose
        options={lubricants.filter((l) => l.name !== planned?.lubrication).map((l) => ({ value: l.name, text: told(l.name) }))}
        value={a.is}
        onChoose={a.setIs}
      />
      <TextInput
        label={tr("Or by its name")}
        name="is"
        value={a.is}
        onChange={(e) => a.setIs(e.currentTarget.value)}
        maxLength={80}
        autoComplete="off"
      />
      <p className="soft">{tr("The work stops until an engineer decides; the record shows from which bolt on.")}</p>
    </>
  );
}

/** At any station: the lubricant on the job is another than the plan's. */
export function AnotherLubricant({ joint, run }: { joint: Joint; run: Run }) {
  const record = useRecord(joint.id, run.id);
  const may = useMay("fitter", "inspector", "engineer");
  const [open, setOpen] = useState(false);
  const another = useAnother(run);
  const [note, setNote] = useInputState("");
  if (!may || another.torqued.length === 0 || run.paused || run.standing === "stopped" || run.standing === "signed") return null;
  return (
    <>
      <button type="button" className="link" onClick={() => setOpen(true)} data-act="another">
        {tr("Another lubricant is on the bolts")}
      </button>
      {open && (
        <Dialog
          title={tr("Another lubricant")}
          act={tr("Record it")}
          color="stop"
          ready={another.content !== undefined}
          onClose={() => setOpen(false)}
          onAct={() => {
            if (another.content) record({ ...another.content, ...(note.trim() ? { note: note.trim() } : {}) });
            setOpen(false);
          }}
        >
          <AnotherFields another={another} />
          <Textarea label={tr("In a few words")} value={note} onChange={setNote} />
        </Dialog>
      )}
    </>
  );
}
