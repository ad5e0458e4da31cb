import { SegmentedControl, SimpleGrid, Textarea, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useTorqueUnit } from "../../api/queries";
import type { Group, HandTool } from "../../api/types";
import { Dialog } from "../../ui/Form";
import { readNumber } from "../../ui/format";
import { Field, torqueUnits, Units } from "../layout/editors";
import { tr } from "../../words/words";

const blank = { min: "", max: "", first: "", major: "", minor: "", accuracy: "4", ratio: "", ramArea: "", stroke: "" };
const pressureUnits = ["bar", "MPa", "psi"];

interface ByHandProps {
  group: Group;
  onClose: () => void;
  onTool: (t: HandTool) => void;
}

/** A tool that is not in the crib, entered off its own plate, or its own chart. */
export function ByHand({ group, onClose, onTool }: ByHandProps) {
  const [tag, setTag] = useInputState("");
  const [kind, setKind] = useState(group.drawn ? "tensioner" : group.pressed ? "hydraulic" : "wrench");
  const pressed = kind !== "wrench";
  const torqueUnit = useTorqueUnit();
  const [unit, setUnit] = useState(pressed ? "bar" : torqueUnit);
  const [rows, setRows] = useInputState("");
  const [f, setF] = useState(blank);
  const set = (k: keyof typeof blank) => (v: string) => setF({ ...f, [k]: v });
  const v = (k: keyof typeof blank) => readNumber(f[k]);
  const chart = readRows(rows);
  const asked = {
    wrench: ["min", "max", "major", "minor", "accuracy"],
    hydraulic: ["minor", "accuracy"],
    tensioner: ["ramArea", "max", "minor", "accuracy"],
  }[kind] as (keyof typeof blank)[];
  const extra = (["ratio", "stroke", "first"] as const).every((k) => f[k].trim() === "" || v(k) !== undefined);
  const ready = tag.trim() !== "" && asked.every((k) => v(k) !== undefined) && extra && (kind !== "hydraulic" || chart !== undefined);

  const work = () => {
    const all = { tag: tag.trim(), unit, minor: v("minor")!, accuracy: v("accuracy")! / 100 };
    const ratio = v("ratio");
    const stroke = v("stroke");
    if (kind === "hydraulic") return onTool({ ...all, chart });
    if (kind === "tensioner") return onTool({ ...all, max: v("max")!, ramArea: v("ramArea")!, ...(stroke ? { stroke } : {}) });
    onTool({ ...all, min: v("min")!, max: v("max")!, first: v("first") ?? v("min")!, major: v("major")!, ...(ratio ? { ratio } : {}) });
  };
  return (
    <Dialog title={tr("A tool that is not in the crib")} act={tr("Work it out")} color="now" ready={ready} onClose={onClose} onAct={work}>
      <p className="soft">{tr("Read these off the tool. The record shows first that it was not from the crib.")}</p>
      {!group.drawn && !group.pressed && (
        <SegmentedControl
          fullWidth
          size="md"
          value={kind}
          onChange={(k) => {
            setKind(k);
            setUnit(k === "wrench" ? torqueUnit : "bar");
          }}
          data={[
            { value: "wrench", label: tr("wrench") },
            { value: "hydraulic", label: tr("hydraulic wrench") },
          ]}
        />
      )}
      <TextInput label={tr("Mark or number on the tool")} value={tag} onChange={setTag} data-autofocus />
      <Units units={pressed ? pressureUnits : torqueUnits} value={unit} onChange={setUnit} />
      {kind === "hydraulic" && (
        <Textarea
          label={tr("Its own chart: pressure ({unit}) and torque (N·m), a row each", { unit })}
          name="chart"
          autosize
          minRows={4}
          value={rows}
          onChange={setRows}
          placeholder={"70 280\n350 1420\n690 2800"}
          error={rows.trim() !== "" && chart === undefined ? tr("Two numbers a row: 140 565.") : undefined}
        />
      )}
      <SimpleGrid cols={2} spacing={10}>
        {kind === "wrench" && (
          <>
            <Field label={tr("Range from")} value={f.min} onChange={set("min")} unit={unit} />
            <Field label={tr("to")} value={f.max} onChange={set("max")} unit={unit} />
            <Field label={tr("Main marks every")} value={f.major} onChange={set("major")} unit={unit} />
          </>
        )}
        {kind === "tensioner" && (
          <>
            <Field label={tr("Ram area")} value={f.ramArea} onChange={set("ramArea")} unit="mm²" />
            <Field label={tr("Greatest pressure")} value={f.max} onChange={set("max")} unit={unit} />
            <Field label={tr("Stroke (if it is known)")} value={f.stroke} onChange={set("stroke")} unit="mm" />
          </>
        )}
        <Field
          label={pressed ? tr("Marks of the gauge every") : tr("Thimble marks every")}
          value={f.minor}
          onChange={set("minor")}
          unit={unit}
        />
        {kind === "wrench" && (
          <Field label={tr("First mark (if not the range’s start)")} value={f.first} onChange={set("first")} unit={unit} />
        )}
        <Field label={tr("Accuracy ±")} value={f.accuracy} onChange={set("accuracy")} unit="%" />
      </SimpleGrid>
      {kind === "wrench" && (
        <Field
          label={tr("Multiplier in front of it: torque ratio on its plate (leave empty for none)")}
          value={f.ratio}
          onChange={set("ratio")}
        />
      )}
    </Dialog>
  );
}

/** Rows of a chart as they are typed: two numbers each; undefined where a row is none. */
function readRows(text: string) {
  const rows = text
    .split("\n")
    .map((r) => r.trim())
    .filter(Boolean)
    .map((r) => r.split(/[\s;:]+/).map(readNumber));
  if (rows.length === 0 || rows.some((r) => r.length !== 2 || r.some((n) => n === undefined))) return undefined;
  return rows.map(([pressure, t]) => ({ pressure: pressure!, torque: t! }));
}
