import { NativeSelect, SegmentedControl, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { Joint, Remedy, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import { Dialog } from "../../ui/Form";
import { Choose, type Option } from "../layout/editors";
import { AnotherFields, useAnother } from "./AnotherLubricant";
import { told, tr } from "../../words/words";

const troubles = ["would not turn", "turned too easily", "thread damaged", "overshot", "something else"].map((t) => ({
  value: t,
  text: told(t),
}));

const remedies: Record<Remedy, Omit<Option, "value">> = {
  "try again": { text: tr("made good, try it again"), note: tr("the same pull") },
  replaced: { text: tr("replaced"), note: tr("everything of it begins anew") },
  loosened: { text: tr("loosened"), note: tr("it begins with the first stage") },
  "brought up": { text: tr("short of its turn, brought up to it"), note: tr("by its own mark, once") },
  leave: { text: tr("the others first"), note: tr("this one at the end of the stage") },
};

const harms = [
  { value: "dropped", text: tr("it was dropped") },
  { value: "overloaded", text: tr("it was overloaded") },
  { value: "doubtful", text: tr("it reads or clicks doubtfully") },
] as const;
type Harm = (typeof harms)[number]["value"];

const upsets = [
  { value: "regulator moved", text: tr("the regulator was moved"), note: tr("the pulls since it was read are struck out") },
  { value: "hose changed", text: tr("a hose or a coupling was changed") },
  { value: "pump stopped", text: tr("the pump stopped") },
] as const;
type Upset = (typeof upsets)[number]["value"];

interface TroubleDialogProps {
  joint: Joint;
  run: Run;
  /** The bolt that is at hand. */
  group?: string;
  bolt?: number;
  tools: string[];
  onClose: () => void;
}

/** What went wrong with a bolt, or with a tool, and what was done about it. */
export function TroubleDialog({ joint, run, group, bolt, tools, onClose }: TroubleDialogProps) {
  const record = useRecord(joint.id, run.id);
  const [about, setAbout] = useState("bolt");
  const [at, setAt] = useInputState(`${group ?? run.bolts[0]?.group}/${bolt ?? run.bolts[0]?.position}`);
  const [what, setWhat] = useState("");
  const [remedy, setRemedy] = useState<Remedy>();
  const [harm, setHarm] = useState<Harm>();
  const [tool, setTool] = useState(tools[0] ?? "");
  const [upset, setUpset] = useState<Upset>();
  const rigged = run.groups.find((g) => g.upsettable && (g.name === group || g.of === group));
  const [note, setNote] = useInputState("");
  const of = run.bolts.find((b) => `${b.group}/${b.position}` === at);
  const another = useAnother(run, group);
  const words = note.trim() ? { note: note.trim() } : {};
  const ready =
    about === "pump"
      ? rigged && upset
      : about === "bolt"
        ? of && what !== "" && remedy
        : about === "tool"
          ? tool !== "" && harm
          : another.content !== undefined;

  function keep() {
    if (about === "lubricant" && another.content) record({ ...another.content, ...words });
    else if (about === "pump" && rigged && upset) record({ kind: "upset", group: rigged.name, what: upset, ...words });
    else if (about === "tool" && harm) record({ kind: "report", tool, what: harm, ...words });
    else if (of && remedy) record({ kind: "trouble", group: of.group, bolt: of.position, what, remedy, ...words });
    onClose();
  }

  return (
    <Dialog title={tr("Trouble")} act={tr("Record it")} color="stop" ready={Boolean(ready)} onClose={onClose} onAct={keep}>
      {(tools.length > 0 || another.torqued.length > 0) && (
        <SegmentedControl
          fullWidth
          size="md"
          value={about}
          onChange={setAbout}
          data={[
            { value: "bolt", label: tr("with a bolt") },
            ...(tools.length > 0 ? [{ value: "tool", label: tr("with a tool") }] : []),
            ...(rigged ? [{ value: "pump", label: tr("with the pump") }] : []),
            ...(another.torqued.length > 0 ? [{ value: "lubricant", label: tr("another lubricant") }] : []),
          ]}
        />
      )}
      {about === "lubricant" ? (
        <AnotherFields another={another} />
      ) : about === "pump" ? (
        <>
          <Choose options={[...upsets]} value={upset ?? ""} onChoose={(v) => setUpset(v as Upset)} />
          <p className="soft">{tr("It is rigged up again before the next nut.")}</p>
        </>
      ) : about === "bolt" ? (
        <>
          <NativeSelect
            label={tr("Which")}
            name="at"
            value={at}
            onChange={setAt}
            data={run.bolts.map((b) => ({ value: `${b.group}/${b.position}`, label: told(b.name) }))}
          />
          <Choose options={troubles} value={what} onChoose={setWhat} />
          {what && of && (
            <>
              <p className="soft">{tr("What was done about it")}</p>
              <Choose
                options={of.remedies.map((r) => ({ value: r, ...remedies[r] }))}
                value={remedy ?? ""}
                onChoose={(v) => setRemedy(of.remedies.find((r) => r === v))}
              />
              {of.remedies.length === 0 && <p>{tr("Nothing can be recorded of it now.")}</p>}
            </>
          )}
        </>
      ) : (
        <>
          <Choose options={tools.map((t) => ({ value: t, text: t }))} value={tool} onChoose={setTool} />
          <Choose options={[...harms]} value={harm ?? ""} onChoose={(v) => setHarm(v as Harm)} />
          <p className="soft">
            {tr(
              "It is held back from now on. What was pulled with it since its last good check, here and at other joints, is in doubt until its check finds it good or an engineer answers.",
            )}
          </p>
        </>
      )}
      <Textarea label={tr("In a few words")} value={note} onChange={setNote} />
    </Dialog>
  );
}
