import { Button, Checkbox, NativeSelect, SimpleGrid, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, problemOf, take } from "../api/client";
import type { ToolCard, ToolData, ToolField, ToolKind } from "../api/types";
import { FaceView } from "../drawing/faces/Face";
import { Dialog } from "../ui/Form";
import { readNumber } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import { useFreshCrib, useLive, useToolKinds } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

type Typed = Record<string, string>;
type ChartRow = { pressure: string; torque: string };

interface ToolDialogProps {
  /** Whose data are changed; none: a new tool. */
  of?: ToolCard;
  onClose: () => void;
  onDone: (tag: string) => void;
}

/** A tool's data off its plate: only what its kind has is asked for. */
export function ToolDialog({ of, onClose, onDone }: ToolDialogProps) {
  const kinds = useToolKinds().data?.kinds;
  if (!kinds) return null;
  return <Plate kinds={kinds} of={of} onClose={onClose} onDone={onDone} />;
}

const keyOf = (k: { kind: string; face?: string }) => `${k.kind}/${k.face ?? ""}`;

function Plate({ kinds, of, onClose, onDone }: ToolDialogProps & { kinds: ToolKind[] }) {
  const d = of?.data;
  const [key, setKey] = useInputState(d ? keyOf(d) : "wrench/ring and thimble");
  const kind = kinds.find((k) => keyOf(k) === key) ?? kinds[0]!;
  const [typed, setTyped] = useState<Typed>(() => (d ? written(d) : {}));
  const [falls, setFalls] = useState(d?.falls ?? false);
  const [inside, setInside] = useState(d?.inside ?? false);
  const [chart, setChart] = useState<ChartRow[]>(() =>
    d?.chart?.length ? d.chart.map((r) => ({ pressure: String(r.pressure), torque: String(r.torque) })) : blankChart(),
  );
  const [bought, setBought] = useInputState(new Date().toISOString().slice(0, 10));
  const [place, setPlace] = useInputState("");
  const [from, setFrom] = useInputState("");
  const [why, setWhy] = useInputState("");
  const [id] = useState(() => crypto.randomUUID());
  const fresh = useFreshCrib();
  const value = (f: ToolField) => typed[f.name] ?? f.usual ?? "";
  const set = (name: string, v: string) => setTyped({ ...typed, [name]: v });
  const data = () => ({
    ...(Object.fromEntries(
      kind.fields.filter((f) => f.name !== "face").map((f) => [f.name, f.number ? (readNumber(value(f)) ?? 0) : value(f)]),
    ) as Partial<ToolData>),
    tag: (typed.tag ?? "").trim(),
    name: (typed.name ?? "").trim(),
    kind: kind.kind,
    ...(kind.face ? { face: kind.face } : {}),
    ...(kind.falls ? { falls } : {}),
    ...(kind.inside ? { inside } : {}),
    ...(kind.chart
      ? {
          chart: chart
            .filter((r) => r.pressure.trim() !== "" || r.torque.trim() !== "")
            .map((r) => ({ pressure: readNumber(r.pressure) ?? 0, torque: readNumber(r.torque) ?? 0 })),
        }
      : {}),
  });
  const add = useMutation({
    mutationFn: () => take(http.POST("/api/crib", { body: { id, data: data(), bought, from: from.trim(), place: place.trim() } })),
    onSuccess: (card) => {
      fresh(card);
      onDone(card.tool.tag);
    },
  });
  const live = useLive(d?.tag ?? "", () => onDone(d?.tag ?? ""));
  const error = of ? live.error : add.error;
  const wrong = problemOf(error);
  const now = data();
  const draft = useQuery({
    queryKey: ["crib draft", JSON.stringify(now)],
    queryFn: () => take(http.POST("/api/crib/draft", { body: { data: now, new: of === undefined } })),
    placeholderData: (before) => before,
    retry: false,
  });
  const faults = draft.data?.faults ?? [];
  // Of what nobody has come to yet nothing is said.
  const touched = (name: string) => of !== undefined || name in typed || (name === "chart" && chart.some((r) => r.pressure !== ""));
  const at = (name: string) =>
    wrong?.field === name
      ? `${wrong.detail} ${wrong.way ?? ""}`
      : touched(name)
        ? faults.find((f) => f.field.split(".")[0] === name)?.text
        : undefined;
  const face = draft.data?.faces[Math.floor(draft.data.faces.length / 2)];
  const shown = ["tag", "name", "bought", "on", "note", ...kind.fields.map((f) => f.name)].includes(wrong?.field ?? "");
  const unreadable = kind.fields.some((f) => f.number && value(f).trim() !== "" && readNumber(value(f)) === undefined);
  return (
    <Dialog
      title={of ? tr("The data of {tag}", { tag: d!.tag }) : tr("A tool that comes into the crib")}
      act={of ? tr("Change them") : tr("Into the crib")}
      size={1080}
      ready={(typed.tag ?? "").trim() !== "" && !unreadable && faults.length === 0 && (!of || why.trim() !== "")}
      busy={add.isPending || live.isPending}
      onClose={onClose}
      onAct={() => (of ? live.mutate({ id, kind: "changed", note: why.trim(), data: data() }) : add.mutate())}
    >
      <div className={classes.plate}>
        <SimpleGrid cols={{ base: 1, xs: 2 }} spacing={12} verticalSpacing={8}>
          <NativeSelect label={tr("What it is")} name="kind" value={key} onChange={setKey} disabled={of && d!.kind !== "wrench"}>
            {kinds
              .filter((k) => !of || k.kind === d!.kind)
              .map((k) => (
                <option key={keyOf(k)} value={keyOf(k)}>
                  {k.kind === "wrench" ? tr("wrench: {face}", { face: told(k.face) }) : told(k.kind)}
                </option>
              ))}
          </NativeSelect>
          <TextInput
            label={tr("Tag, as engraved on it")}
            name="tag"
            value={typed.tag ?? ""}
            onChange={(e) => set("tag", e.currentTarget.value)}
            error={at("tag")}
            disabled={of !== undefined}
            autoComplete="off"
            data-autofocus
          />
          <TextInput
            label={tr("Name")}
            name="name"
            value={typed.name ?? ""}
            onChange={(e) => set("name", e.currentTarget.value)}
            error={at("name")}
          />
          {kind.fields
            .filter((f) => f.name !== "face")
            .map((f) => (
              <One
                key={f.name}
                field={f}
                value={value(f)}
                unit={f.own ? (typed[f.own] ?? usual(kind, f.own)) : f.unit}
                error={at(f.name)}
                onChange={(v) => set(f.name, v)}
              />
            ))}
          {!of && (
            <>
              <TextInput
                label={tr("Bought on")}
                name="bought"
                type="date"
                value={bought}
                onChange={setBought}
                error={at("bought") ?? at("on")}
              />
              <TextInput label={tr("From")} name="from" value={from} onChange={setFrom} maxLength={120} />
              <TextInput label={tr("Its place")} name="place" value={place} onChange={setPlace} maxLength={120} />
            </>
          )}
        </SimpleGrid>
        <aside className={classes.looks} aria-live="polite">
          {face ? (
            <>
              <p className="soft">{tr("So its face looks. Is it the one in your hand?")}</p>
              <FaceView face={face} />
              {draft.data?.reach && <p>{told(draft.data.reach)}</p>}
            </>
          ) : (
            <p className="soft">
              {kind.measures || kind.falls
                ? tr("Read all of it off the tool itself; here it is drawn then, to be held against it.")
                : tr("Read all of it off the tool itself.")}
              {draft.data && !kind.measures && told(draft.data.reach)}
            </p>
          )}
        </aside>
      </div>
      {kind.falls && (
        <Checkbox
          label={tr("Its main marks rise toward the hand")}
          checked={falls}
          onChange={(e) => setFalls(e.currentTarget.checked)}
          size="md"
          mih={48}
        />
      )}
      {kind.inside && (
        <Checkbox
          label={tr("A bit, for a hexagon inside")}
          checked={inside}
          onChange={(e) => setInside(e.currentTarget.checked)}
          size="md"
          mih={48}
        />
      )}
      {kind.chart && (
        <Chart
          rows={chart}
          unit={typed.pressureUnit ?? usual(kind, "pressureUnit")}
          onChange={setChart}
          error={wrong?.field?.startsWith("chart") ? told(wrong.detail) : undefined}
        />
      )}
      {of && (
        <TextInput
          label={tr("Why, and where the new ones are from")}
          name="why"
          value={why}
          onChange={setWhy}
          maxLength={500}
          error={at("why")}
        />
      )}
      {!shown && !wrong?.field?.startsWith("chart") && <Refusal error={error} />}
      {!of && kind.measures && <p className="soft">{tr("Its calibration is entered next, with its certificate.")}</p>}
    </Dialog>
  );
}

const usual = (k: ToolKind, name: string) => k.fields.find((f) => f.name === name)?.usual ?? "";

function One({
  field: f,
  value,
  unit,
  error,
  onChange,
}: {
  field: ToolField;
  value: string;
  unit?: string;
  error?: string;
  onChange: (v: string) => void;
}) {
  if (f.options?.length) {
    return (
      <NativeSelect label={told(f.text)} name={f.name} value={value} error={error} onChange={(e) => onChange(e.currentTarget.value)}>
        {value === "" && <option value="">{tr("choose")}</option>}
        {f.options.map((o) => (
          <option key={o} value={o}>
            {told(o)} {told(f.unit)}
          </option>
        ))}
      </NativeSelect>
    );
  }
  const odd = f.number && value.trim() !== "" && readNumber(value) === undefined;
  return (
    <TextInput
      label={told(f.text)}
      name={f.name}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
      inputMode={f.number ? "decimal" : undefined}
      autoComplete="off"
      rightSection={unit ? <span className="mono soft">{told(unit)}</span> : undefined}
      rightSectionWidth={unit ? 74 : undefined}
      error={odd ? tr("Enter a number, like 240 or 9.5.") : error}
    />
  );
}

const blankChart = () => Array.from({ length: 3 }, () => ({ pressure: "", torque: "" }));

function Chart({ rows, unit, onChange, error }: { rows: ChartRow[]; unit: string; onChange: (rows: ChartRow[]) => void; error?: string }) {
  return (
    <fieldset style={{ border: 0, margin: 0, padding: 0 }}>
      <legend>
        <b>{tr("Its own chart")}</b> <span className="soft">{tr("rising; another tool’s is wrong")}</span>
      </legend>
      {rows.map((r, i) => (
        <div key={i} className={classes.chartRow}>
          {(["pressure", "torque"] as const).map((k) => (
            <TextInput
              key={k}
              aria-label={k === "pressure" ? tr("Row {i}, pressure", { i: i + 1 }) : tr("Row {i}, torque", { i: i + 1 })}
              name={`chart ${i + 1} ${k}`}
              inputMode="decimal"
              autoComplete="off"
              value={r[k]}
              rightSection={<span className="mono soft">{k === "pressure" ? unit : "N·m"}</span>}
              rightSectionWidth={64}
              onChange={(e) => onChange(rows.map((x, j) => (j === i ? { ...x, [k]: e.currentTarget.value } : x)))}
            />
          ))}
          <Button
            variant="default"
            px={0}
            aria-label={tr("Take row {i} off", { i: i + 1 })}
            onClick={() => onChange(rows.filter((_, j) => j !== i))}
          >
            ×
          </Button>
        </div>
      ))}
      <Button variant="default" mt={8} onClick={() => onChange([...rows, { pressure: "", torque: "" }])}>
        {tr("One more row")}
      </Button>
      {error && <Refusal problem={{ type: "", title: "", status: 422, code: "", detail: error }} />}
    </fieldset>
  );
}

/** What is typed for a tool as it is. */
function written(d: ToolData): Typed {
  const out: Typed = {};
  for (const [k, v] of Object.entries(d)) {
    if (typeof v === "string") out[k] = v;
    if (typeof v === "number") out[k] = String(v);
  }
  return out;
}
