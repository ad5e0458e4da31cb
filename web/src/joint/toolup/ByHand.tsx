import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import type { HandTool } from "../../api/types";
import { readNumber } from "../../ui/format";
import ui from "../../ui/ui.module.css";
import { Field, torqueUnits, Units } from "../layout/editors";
import layout from "../layout/layout.module.css";

const blank = { min: "", max: "", first: "", major: "", minor: "", accuracy: "4", ratio: "" };

/** A tool that is not in the crib, entered off its own plate. */
export function ByHand({ opened, onClose, onTool }: { opened: boolean; onClose: () => void; onTool: (t: HandTool) => void }) {
  const [tag, setTag] = useState("");
  const [unit, setUnit] = useState("N·m");
  const [f, setF] = useState(blank);
  const set = (k: keyof typeof blank) => (v: string) => setF({ ...f, [k]: v });
  const v = (k: keyof typeof blank) => readNumber(f[k]);
  const ready =
    tag.trim() !== "" &&
    (["min", "max", "major", "minor", "accuracy"] as const).every((k) => v(k) !== undefined) &&
    (f.ratio.trim() === "" || v("ratio") !== undefined);
  return (
    <Modal opened={opened} onClose={onClose} title={<b>A tool that is not in the crib</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          if (!ready) return;
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
        }}
      >
        <p className="soft">Read these off the tool. The record shows first that it was not from the crib.</p>
        <TextInput label="Mark or number on the tool" value={tag} onChange={(e) => setTag(e.currentTarget.value)} data-autofocus />
        <Units units={torqueUnits} value={unit} onChange={setUnit} />
        <div className={layout.two}>
          <Field label="Range from" value={f.min} onChange={set("min")} unit={unit} />
          <Field label="to" value={f.max} onChange={set("max")} unit={unit} />
          <Field label="Main marks every" value={f.major} onChange={set("major")} unit={unit} />
          <Field label="Thimble marks every" value={f.minor} onChange={set("minor")} unit={unit} />
          <Field label="First mark (if not the range’s start)" value={f.first} onChange={set("first")} unit={unit} />
          <Field label="Accuracy ±" value={f.accuracy} onChange={set("accuracy")} unit="%" />
        </div>
        <Field
          label="Multiplier in front of it: torque ratio on its plate (leave empty for none)"
          value={f.ratio}
          onChange={set("ratio")}
        />
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="now" disabled={!ready}>
            Work it out
          </Button>
        </div>
      </form>
    </Modal>
  );
}
