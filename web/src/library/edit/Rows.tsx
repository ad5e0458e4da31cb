import { Button, Group, TextInput } from "@mantine/core";
import type { ClipboardEvent } from "react";
import { faultsAt, useEditing } from "./context";
import { at, insert, list, names, put, text, type Doc, type Json, type Path } from "./document";
import { Field } from "./Field";
import { shapeAt } from "./shape";
import { useTyped } from "./typed";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

/** A column of the maker's sheet: where its cells stand in a row, and how they are written. */
interface Column {
  title: string;
  path: Path;
  read: (v: Json | undefined) => string;
  /** What was typed; undefined: it cannot be that. */
  write: (typed: string) => Json | undefined;
}

const plain = { read: (v: Json | undefined) => text(v), write: (typed: string) => typed };
const count = {
  read: (v: Json | undefined) => text(v),
  write: (typed: string) => (/^\d+$/.test(typed.trim()) ? Number(typed) : typed),
};
/** One number, or two with "to" between. */
const range = {
  read: (v: Json | undefined) =>
    list(v, [])
      .map((x) => text(x))
      .join(" to "),
  write: (typed: string) => {
    const parts = typed.split(/\s+to\s+|\s*–\s*/).map((p) => p.trim().replace(",", "."));
    return parts.every((p) => p !== "" && Number.isFinite(Number(p))) ? parts.map(Number) : undefined;
  },
};

function columns(doc: Doc): Column[] {
  const rows = list(doc, ["sheet", "rows"]);
  const has = (key: string, name: string) => rows.some((r) => at(r, [key, name]) !== undefined);
  const groups = list(doc, ["groups"]);
  // A sheet may speak of one of several that repeat: "bolts, M10".
  const spoken = (key: string) => rows.flatMap((r) => Object.keys((at(r, [key]) ?? {}) as Doc));
  const groupNames = [...new Set([...names(doc, ["groups"], "name"), ...["bolts", "threads", "grades", "for"].flatMap(spoken)])];
  const out: Column[] = [
    { title: tr("type"), path: ["type"], ...plain },
    { title: tr("size"), path: ["size"], ...plain },
  ];
  for (const c of list(doc, ["choices"])) {
    const name = text(c, "name");
    if (at(c, ["plate"]) === true || has("choices", name)) out.push({ title: name, path: ["choices", name], ...plain });
    if (has("when", name)) out.push({ title: tr("only with {name}", { name }), path: ["when", name], ...plain });
  }
  const needs = new Set([...names(doc, ["needs"], "name"), ...spoken("values")]);
  for (const name of needs) {
    const need = list(doc, ["needs"]).find((n) => text(n, "name") === name);
    if (at(need, ["rule"]) !== undefined) continue;
    const unit = text(need, "unit") || text(need, "word");
    out.push({ title: unit ? `${name}, ${unit}` : name, path: ["values", name], ...range });
  }
  for (const name of groupNames) {
    const group = groups.find((g) => text(g, "name") === name);
    const asks = group !== undefined && at(group, ["bolts"]) === undefined;
    if (asks || has("bolts", name)) out.push({ title: tr("{name}: how many", { name }), path: ["bolts", name], ...count });
    out.push({ title: tr("{name}: thread", { name }), path: ["threads", name], ...plain });
    if (has("threads", name) || has("grades", name)) out.push({ title: tr("{name}: grade", { name }), path: ["grades", name], ...plain });
    if (has("for", name)) out.push({ title: tr("{name}: written for", { name }), path: ["for", name], ...plain });
  }
  return out;
}

/** The maker's sheet as a table: a row for each type and size, a column for each value. A range is pasted over it whole. */
export function Rows() {
  const editing = useEditing();
  const { doc, change } = editing;
  const cols = columns(doc);
  const rows = list(doc, ["sheet", "rows"]);
  const cell = (d: Doc, i: number, c: Column, typed: string): Doc => {
    if (typed.trim() === "") {
      const next = put(d, ["sheet", "rows", i, ...c.path], undefined);
      const [outer, inner] = c.path;
      const left = inner === undefined ? undefined : at(next, ["sheet", "rows", i, outer!]);
      return left && Object.keys(left).length === 0 ? put(next, ["sheet", "rows", i, outer!], undefined) : next;
    }
    const v = c.write(typed);
    return v === undefined ? d : put(d, ["sheet", "rows", i, ...c.path], v);
  };
  const paste = (e: ClipboardEvent, row: number, col: number) => {
    const lines = e.clipboardData
      .getData("text")
      .replace(/\r?\n$/, "")
      .split(/\r?\n/);
    if (lines.length === 1 && !lines[0]!.includes("\t")) return;
    e.preventDefault();
    change((d) => {
      let next = d;
      lines.forEach((line, r) => {
        if (at(next, ["sheet", "rows", row + r]) === undefined) next = insert(next, ["sheet", "rows"], row + r, {});
        line.split("\t").forEach((typed, k) => {
          const c = cols[col + k];
          if (c) next = cell(next, row + r, c, typed);
        });
      });
      return next;
    });
  };
  return (
    <section className={classes.things}>
      <Field
        path={["sheet", "title"]}
        shape={shapeAt(editing.shape, ["sheet", "title"])}
        asked={{ label: tr("Whose sheet it is") }}
        way="text"
      />
      <p className="fine">
        {tr("A range is written “10 to 12”. Cells copied from a spreadsheet are pasted where the first of them belongs.")}
      </p>
      {/* Wider than its column it scrolls, by keys too. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div className={classes.scroll} tabIndex={0} role="group" aria-label={tr("The maker’s sheet")}>
        <table className={classes.rows}>
          <thead>
            <tr>
              {cols.map((c) => (
                <th key={c.path.join(".")} scope="col">
                  {c.title}
                </th>
              ))}
              <th>
                <span className="fine">{tr("row")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => {
              const wrong = faultsAt(editing.faults, ["sheet", "rows", i]);
              return (
                // oxlint-disable-next-line react/no-array-index-key
                <tr key={i} data-wrong={wrong.length > 0 || undefined}>
                  {cols.map((c, k) => (
                    <td key={c.path.join(".")}>
                      <Cell
                        label={tr("{title}, row {i}", { title: c.title, i: i + 1 })}
                        column={c}
                        value={c.read(at(r, c.path))}
                        onType={(typed) => change((d) => cell(d, i, c, typed))}
                        onPaste={(e) => paste(e, i, k)}
                      />
                    </td>
                  ))}
                  <td>
                    <Group gap={6} wrap="nowrap">
                      <Button
                        variant="default"
                        aria-label={tr("Copy row {i}", { i: i + 1 })}
                        onClick={() => change((d) => insert(d, ["sheet", "rows"], i + 1, r))}
                      >
                        {tr("Copy")}
                      </Button>
                      <Button
                        variant="subtle"
                        color="stop"
                        aria-label={tr("Take out row {i}", { i: i + 1 })}
                        onClick={() => change((d) => put(d, ["sheet", "rows", i], undefined))}
                      >
                        {tr("Take out")}
                      </Button>
                    </Group>
                    {wrong.map((f) => (
                      <p key={f.field + f.text} role="alert" className={classes.wrong}>
                        {told(f.text)} {told(f.way)}
                      </p>
                    ))}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Button variant="default" onClick={() => change((d) => insert(d, ["sheet", "rows"], rows.length, {}))}>
        {tr("Add a row")}
      </Button>
    </section>
  );
}

interface CellProps {
  label: string;
  column: Column;
  value: string;
  onType: (typed: string) => void;
  onPaste: (e: ClipboardEvent) => void;
}

function Cell({ label, column: c, value, onType, onPaste }: CellProps) {
  const says = (typed: string) => {
    const v = typed.trim() === "" ? "" : c.write(typed);
    return v === undefined ? undefined : c.read(v);
  };
  const { shown, wrong, type } = useTyped(value, says);
  return (
    <TextInput
      aria-label={label}
      value={shown}
      error={wrong && tr("A number, or two with “to” between.")}
      onChange={(e) => {
        type(e.currentTarget.value);
        if (says(e.currentTarget.value) !== undefined) onType(e.currentTarget.value);
      }}
      onPaste={onPaste}
    />
  );
}
