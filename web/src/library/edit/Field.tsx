import { Checkbox, Chip, Group, NativeSelect, NumberInput, TagsInput, Text, Textarea, TextInput } from "@mantine/core";
import { useId } from "react";
import { faultsAt, namesOf, useEditing } from "./context";
import { at, list, text, type Json, type Path } from "./document";
import type { Shape, Way } from "./shape";
import { useTyped } from "./typed";
import type { Asked } from "./words";
import classes from "./edit.module.css";
import { tr } from "../../words/words";

/** The hint stands below, so that fields beside one another are level. */
const ORDER: ("label" | "input" | "description" | "error")[] = ["label", "input", "description", "error"];

interface FieldProps {
  path: Path;
  shape: Shape;
  asked: Asked;
  way: Way;
}

/** One field of a recipe: its name, what is in it, and beside it what is wrong with that. */
export function Field({ path, shape, asked: a, way }: FieldProps) {
  const editing = useEditing();
  const value = at(editing.doc, path);
  const wrong = faultsAt(editing.faults, path);
  const set = (v: Json | undefined) => editing.set(path, v === "" || v === false ? undefined : v);
  const common = {
    label: a.label,
    description: a.hint,
    error: wrong.length > 0 ? wrong.map((f) => `${f.text} ${f.way}`).join(" ") : undefined,
    name: path.join("."),
    inputWrapperOrder: ORDER,
  };
  switch (way) {
    case "one of":
      return (
        <NativeSelect {...common} value={text(value)} onChange={(e) => set(e.currentTarget.value)}>
          {!shape.enum?.includes("") && <option value="">{a.empty ?? ""}</option>}
          {shape.enum?.map((o) => (
            <option key={o} value={o}>
              {o || (a.empty ?? "")}
            </option>
          ))}
        </NativeSelect>
      );
    case "yes":
      return (
        <Checkbox
          label={a.label}
          description={a.hint}
          error={common.error}
          name={common.name}
          size="lg"
          className={classes.yes}
          checked={value === true}
          onChange={(e) => set(e.currentTarget.checked || undefined)}
        />
      );
    case "number":
      return (
        <NumberInput
          {...common}
          size="md"
          hideControls
          suffix={a.unit && ` ${a.unit}`}
          value={typeof value === "number" ? value : ""}
          onChange={(v) => (typeof v === "number" ? set(v) : v === "" && set(undefined))}
        />
      );
    case "numbers":
      return (
        <Parsed
          {...common}
          value={list(value, []).join(", ")}
          rightSection={a.unit}
          parse={(typed) => {
            const numbers = typed.split(/[\s,;]+/).filter(Boolean);
            return numbers.every((n) => Number.isFinite(Number(n))) ? numbers.map(Number) : undefined;
          }}
          set={set}
        />
      );
    case "lines":
      return (
        <Parsed
          {...common}
          lines
          value={list(value, [])
            .map((l) => text(l))
            .join("\n")}
          parse={(typed) =>
            typed
              .split("\n")
              .map((l) => l.trim())
              .filter(Boolean)
          }
          set={set}
        />
      );
    case "names":
      return (
        <TagsInput
          {...common}
          size="md"
          splitChars={[]}
          data={namesOf(editing, a.from!, path)}
          value={list(value, []).map((l) => text(l))}
          onChange={(v) => set(v.length > 0 ? v : undefined)}
        />
      );
    case "variants":
      return <Variants {...common} path={path} value={value} />;
    default:
      return a.long ? (
        <Textarea {...common} maxLength={2000} value={text(value)} onChange={(e) => set(e.currentTarget.value)} />
      ) : (
        <Named {...common} data={a.from ? namesOf(editing, a.from, path) : []} value={text(value)} set={set} />
      );
  }
}

interface Common {
  label: string;
  description?: string;
  error?: string;
  name: string;
  inputWrapperOrder?: typeof ORDER;
}

/** A text; what it can name is offered as it is typed. */
function Named({ data, value, set, ...common }: Common & { data: string[]; value: string; set: (v: string) => void }) {
  const id = useId();
  return (
    <>
      <TextInput {...common} list={data.length > 0 ? id : undefined} value={value} onChange={(e) => set(e.currentTarget.value)} />
      {data.length > 0 && (
        <datalist id={id}>
          {data.map((d) => (
            <option key={d} value={d}>
              {d}
            </option>
          ))}
        </datalist>
      )}
    </>
  );
}

interface ParsedProps extends Common {
  value: string;
  lines?: boolean;
  rightSection?: string;
  /** What was typed as a list; undefined: it is none. */
  parse: (typed: string) => Json[] | undefined;
  set: (v: Json | undefined) => void;
}

/** A list typed as a text. What is typed stays as it is typed; the document has what it says. */
function Parsed({ value, lines, parse, set, error, rightSection, ...common }: ParsedProps) {
  const { shown, wrong, type } = useTyped(value, (typed) => parse(typed)?.join(lines ? "\n" : ", "));
  const change = (e: { currentTarget: { value: string } }) => {
    type(e.currentTarget.value);
    const l = parse(e.currentTarget.value);
    if (l) set(l.length > 0 ? l : undefined);
  };
  const said = wrong ? tr("These are not all numbers.") : error;
  return lines ? (
    <Textarea {...common} error={said} maxLength={8000} minRows={2} value={shown} onChange={change} />
  ) : (
    <TextInput {...common} error={said} rightSection={rightSection} value={shown} onChange={change} />
  );
}

/** The variants in which something is there: for each question its options, none of them chosen is any. */
function Variants({ label, description, error, path, value }: Common & { path: Path; value: Json | undefined }) {
  const { doc, set } = useEditing();
  const choices = list(doc, ["choices"]);
  const within = path[0] === "choices" ? choices.slice(0, Number(path[1])) : choices;
  return (
    <fieldset className={classes.variants}>
      <legend>{label}</legend>
      {description && <p className="fine">{description}</p>}
      {within.length === 0 && <p className="soft">{tr("There are no variants to choose from.")}</p>}
      {within.map((c) => {
        const name = text(c, "name");
        const chosen = text(value, name).split(" or ").filter(Boolean);
        return (
          <Group key={name} gap={8} wrap="wrap">
            <Text span miw={90}>
              {name}
            </Text>
            {list(c, ["options"]).map((o) => {
              const option = text(o);
              const on = chosen.includes(option);
              return (
                <Chip
                  key={option}
                  size="md"
                  variant="outline"
                  styles={{ label: { display: "inline-flex", alignItems: "center", whiteSpace: "nowrap" } }}
                  checked={on}
                  onChange={() => {
                    const next = list(c, ["options"])
                      .map((x) => text(x))
                      .filter((x) => (x === option ? !on : chosen.includes(x)));
                    const when = { ...(typeof value === "object" && !Array.isArray(value) ? value : {}) } as Record<string, Json>;
                    if (next.length > 0) when[name] = next.join(" or ");
                    else delete when[name];
                    set(path, Object.keys(when).length > 0 ? when : undefined);
                  }}
                >
                  {option}
                </Chip>
              );
            })}
          </Group>
        );
      })}
      {error && (
        <Text c="stop" fz={14} role="alert">
          {error}
        </Text>
      )}
    </fieldset>
  );
}
