import { NativeSelect, SegmentedControl, Textarea, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { type ChangeEvent, useState } from "react";
import { useWords } from "../../api/queries";
import type { Joint, Remedy, Run } from "../../api/types";
import { useRecord } from "../../app/context";
import { Dialog } from "../../ui/Form";
import { Choose, type Option } from "../layout/editors";

const troubles = ["would not turn", "turned too easily", "thread damaged", "overshot", "something else"].map((t) => ({
  value: t,
  text: t,
}));

const remedies: Record<Remedy, Omit<Option, "value">> = {
  "try again": { text: "made good, try it again", note: "the same pull" },
  replaced: { text: "replaced", note: "everything of it begins anew" },
  loosened: { text: "loosened", note: "it begins with the first stage" },
  "brought up": { text: "short of its turn, brought up to it", note: "by its own mark, once" },
  leave: { text: "the others first", note: "this one at the end of the stage" },
};

const harms = [
  { value: "dropped", text: "it was dropped" },
  { value: "doubtful", text: "it reads or clicks doubtfully" },
];

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
  const [harm, setHarm] = useState<"dropped" | "doubtful">();
  const [tool, setTool] = useState(tools[0] ?? "");
  const [note, setNote] = useInputState("");
  const of = run.bolts.find((b) => `${b.group}/${b.position}` === at);
  const torqued = run.groups.filter((g) => g.how === "torque");
  const [on, setOn] = useInputState(torqued.find((g) => g.name === group || g.of === group)?.name ?? torqued[0]?.name ?? "");
  const [is, setIs] = useState("");
  const words = note.trim() ? { note: note.trim() } : {};
  const ready = about === "bolt" ? of && what !== "" && remedy : about === "tool" ? tool !== "" && harm : is.trim() !== "";

  function keep() {
    if (about === "lubricant") record({ kind: "lubricant", group: on, is: is.trim(), ...words });
    else if (about === "tool" && harm) record({ kind: "report", tool, what: harm, ...words });
    else if (of && remedy) record({ kind: "trouble", group: of.group, bolt: of.position, what, remedy, ...words });
    onClose();
  }

  return (
    <Dialog title="Trouble" act="Record it" color="stop" ready={Boolean(ready)} onClose={onClose} onAct={keep}>
      {(tools.length > 0 || torqued.length > 0) && (
        <SegmentedControl
          fullWidth
          size="md"
          value={about}
          onChange={setAbout}
          data={[
            { value: "bolt", label: "with a bolt" },
            ...(tools.length > 0 ? [{ value: "tool", label: "with a tool" }] : []),
            ...(torqued.length > 0 ? [{ value: "lubricant", label: "another lubricant" }] : []),
          ]}
        />
      )}
      {about === "lubricant" ? (
        <Another groups={torqued} on={on} onOn={setOn} is={is} onIs={setIs} />
      ) : about === "bolt" ? (
        <>
          <NativeSelect
            label="Which"
            name="at"
            value={at}
            onChange={setAt}
            data={run.bolts.map((b) => ({ value: `${b.group}/${b.position}`, label: b.name }))}
          />
          <Choose options={troubles} value={what} onChoose={setWhat} />
          {what && of && (
            <>
              <p className="soft">What was done about it</p>
              <Choose
                options={of.remedies.map((r) => ({ value: r, ...remedies[r] }))}
                value={remedy ?? ""}
                onChoose={(v) => setRemedy(of.remedies.find((r) => r === v))}
              />
              {of.remedies.length === 0 && <p>Nothing can be recorded of it now.</p>}
            </>
          )}
        </>
      ) : (
        <>
          <Choose options={tools.map((t) => ({ value: t, text: t }))} value={tool} onChoose={setTool} />
          <Choose options={harms} value={harm ?? ""} onChoose={(v) => setHarm(v === "dropped" ? "dropped" : "doubtful")} />
          <p className="soft">
            It is held back from now on, and what was pulled with it since its last good check is in doubt until an engineer answers.
          </p>
        </>
      )}
      <Textarea label="In a few words" value={note} onChange={setNote} />
    </Dialog>
  );
}

interface AnotherProps {
  groups: Run["groups"];
  on: string;
  onOn: (e: ChangeEvent<HTMLSelectElement>) => void;
  is: string;
  onIs: (name: string) => void;
}

/** What is on the bolts, where it is not what the plan has. */
function Another({ groups, on, onOn, is, onIs }: AnotherProps) {
  const lubricants = useWords().data?.lubricants ?? [];
  const planned = groups.find((g) => g.name === on);
  return (
    <>
      {groups.length > 1 && (
        <NativeSelect label="On which" name="on" value={on} onChange={onOn} data={groups.map((g) => ({ value: g.name, label: g.name }))} />
      )}
      <p>
        The plan has <b>{planned?.lubrication || "nothing said"}</b>. What is on them?
      </p>
      <Choose
        options={lubricants.filter((l) => l.name !== planned?.lubrication).map((l) => ({ value: l.name, text: l.name }))}
        value={is}
        onChoose={onIs}
      />
      <TextInput
        label="Or by its name"
        name="is"
        value={is}
        onChange={(e) => onIs(e.currentTarget.value)}
        maxLength={80}
        autoComplete="off"
      />
      <p className="soft">The work stops until an engineer decides; the record shows from which bolt on.</p>
    </>
  );
}
