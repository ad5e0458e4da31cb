import { SimpleGrid, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import type { HandTool } from "../../api/types";
import { Dialog } from "../../ui/Form";
import { readNumber } from "../../ui/format";
import { Field, torqueUnits, Units } from "../layout/editors";

const blank = { min: "", max: "", first: "", major: "", minor: "", accuracy: "4", ratio: "" };

/** A tool that is not in the crib, entered off its own plate. */
export function ByHand({ onClose, onTool }: { onClose: () => void; onTool: (t: HandTool) => void }) {
  const [tag, setTag] = useInputState("");
  const [unit, setUnit] = useState("N·m");
  const [f, setF] = useState(blank);
  const set = (k: keyof typeof blank) => (v: string) => setF({ ...f, [k]: v });
  const v = (k: keyof typeof blank) => readNumber(f[k]);
  const ready =
    tag.trim() !== "" &&
    (["min", "max", "major", "minor", "accuracy"] as const).every((k) => v(k) !== undefined) &&
    (f.ratio.trim() === "" || v("ratio") !== undefined);

  const work = () => {
    const ratio = v("ratio");
    onTool({
      tag: tag.trim(),
      unit,
      min: v("min")!,
      max: v("max")!,
      first: v("first") ?? v("min")!,
      major: v("major")!,
      minor: v("minor")!,
      accuracy: v("accuracy")! / 100,
      ...(ratio ? { ratio } : {}),
    });
  };
  return (
    <Dialog title="A tool that is not in the crib" act="Work it out" color="now" ready={ready} onClose={onClose} onAct={work}>
      <p className="soft">Read these off the tool. The record shows first that it was not from the crib.</p>
      <TextInput label="Mark or number on the tool" value={tag} onChange={setTag} data-autofocus />
      <Units units={torqueUnits} value={unit} onChange={setUnit} />
      <SimpleGrid cols={2} spacing={10}>
        <Field label="Range from" value={f.min} onChange={set("min")} unit={unit} />
        <Field label="to" value={f.max} onChange={set("max")} unit={unit} />
        <Field label="Main marks every" value={f.major} onChange={set("major")} unit={unit} />
        <Field label="Thimble marks every" value={f.minor} onChange={set("minor")} unit={unit} />
        <Field label="First mark (if not the range’s start)" value={f.first} onChange={set("first")} unit={unit} />
        <Field label="Accuracy ±" value={f.accuracy} onChange={set("accuracy")} unit="%" />
      </SimpleGrid>
      <Field label="Multiplier in front of it: torque ratio on its plate (leave empty for none)" value={f.ratio} onChange={set("ratio")} />
    </Dialog>
  );
}
