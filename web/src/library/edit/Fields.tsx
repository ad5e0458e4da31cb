import { Button, Group, NativeSelect, Text } from "@mantine/core";
import { useState, type ReactNode } from "react";
import { faultsAt, useEditing } from "./context";
import { at, insert, list, move, put, text, type Json, type Path } from "./document";
import { Field } from "./Field";
import { asked, kindAt, shapeAt, wayOf } from "./shape";
import { NEW, ONE } from "./words";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

interface FieldsProps {
  path: Path;
  /** The fields that are asked here, where others are asked elsewhere. */
  only?: string[];
  /** What else is done with the thing, behind its fields. */
  tail?: ReactNode;
}

/** A thing of a recipe as its fields: the usual ones and what is in it; the others are added when they are wanted. */
export function Fields({ path, only, tail }: FieldsProps) {
  const editing = useEditing();
  const [added, setAdded] = useState<string[]>([]);
  const shape = shapeAt(editing.shape, path);
  const all = asked(path, shape).filter(([key]) => !only || only.includes(key));
  const thing = at(editing.doc, path);
  const isShown = (key: string, usual?: boolean) =>
    usual || added.includes(key) || at(thing, [key]) !== undefined || shape.required?.includes(key);
  const shown = all.filter(([key, a]) => isShown(key, a.usual));
  const others = all.filter(([key, a]) => !isShown(key, a.usual));
  const own = (path.length > 0 ? faultsAt(editing.faults, path) : []).filter(
    (f) => !shown.some(([key]) => faultsAt([f], [...path, key]).length > 0),
  );
  return (
    <div className={classes.fields}>
      {own.map((f) => (
        <Text key={f.field + f.text} c="stop" className={classes.wide} role="alert">
          {told(f.text)} {told(f.way)}
        </Text>
      ))}
      {shown.map(([key, a]) => {
        const inner = shape.properties?.[key] ?? {};
        const way = wayOf(inner, a);
        const here = [...path, key];
        if (way === "things") {
          return (
            <div key={key} className={classes.wide}>
              <Things path={here} label={a.label} />
            </div>
          );
        }
        if (way === "thing") {
          return (
            <fieldset key={key} className={`${classes.thing} ${classes.wide}`}>
              <legend>{a.label}</legend>
              <Fields path={here} />
              <Button variant="subtle" color="stop" className={classes.out} onClick={() => editing.set(here, undefined)}>
                {tr("Take out: {label}", { label: a.label })}
              </Button>
            </fieldset>
          );
        }
        const wide = a.long || way === "lines" || way === "names" || way === "variants";
        return (
          <div key={key} className={wide ? classes.wide : undefined}>
            <Field path={here} shape={inner} asked={a} way={way} />
          </div>
        );
      })}
      <div className={classes.tail}>
        {others.length > 0 && (
          <NativeSelect
            className={classes.more}
            aria-label={tr("Add to: {path}", { path: nameOf(path, thing) })}
            value=""
            onChange={(e) => {
              const key = e.currentTarget.value;
              const inner = shape.properties?.[key];
              setAdded([...added, key]);
              if (inner?.type === "array" && inner.items?.type === "object") editing.set([...path, key], [{ ...NEW[key] }]);
            }}
          >
            <option value="">{tr("Add…")}</option>
            {others.map(([key, a]) => (
              <option key={key} value={key}>
                {a.label}
              </option>
            ))}
          </NativeSelect>
        )}
        {tail}
      </div>
    </div>
  );
}

/** What a thing is called where it is spoken of. */
export function nameOf(path: Path, thing: Json | undefined) {
  return text(thing, "text") || text(thing, "name") || text(thing, "of") || (ONE[kindAt(path)] ?? kindAt(path));
}

/** Lists whose things are mostly one line of text: they stand close. */
const COMPACT = new Set(["ticks", "tools", "materials", "wear"]);

/** The things of a list, each with its fields, one below the other in their order. */
export function Things({ path, label }: { path: Path; label?: string }) {
  const editing = useEditing();
  const things = list(editing.doc, path);
  const kind = String(path.at(-1));
  const one = ONE[kind] ?? tr("one more");
  return (
    <section className={classes.things}>
      {label && <h3>{label}</h3>}
      <ol>
        {things.map((x, i) => (
          // Its place is what tells a thing of a list; names change as they are typed.
          // oxlint-disable-next-line react/no-array-index-key
          <li
            key={i}
            className={classes.thing}
            data-compact={COMPACT.has(kind) || undefined}
            data-wrong={faultsAt(editing.faults, [...path, i]).length > 0 || undefined}
          >
            <Fields path={[...path, i]} tail={<Order path={path} index={i} name={nameOf([...path, i], x)} />} />
          </li>
        ))}
      </ol>
      <Button variant="default" onClick={() => editing.change((doc) => insert(doc, path, things.length, { ...NEW[kind] }))}>
        {tr("Add a {one}", { one })}
      </Button>
    </section>
  );
}

/** The things of a list one at a time: their names in order, and the fields of the one that is chosen. */
export function OneByOne({ path, chosen, onChoose }: { path: Path; chosen: number; onChoose: (i: number) => void }) {
  const editing = useEditing();
  const things = list(editing.doc, path);
  const kind = String(path.at(-1));
  const i = Math.min(chosen, things.length - 1);
  return (
    <section className={classes.things}>
      <div className={classes.names} role="group" aria-label={kind}>
        {things.map((x, k) => (
          <button
            // oxlint-disable-next-line react/no-array-index-key
            key={k}
            type="button"
            aria-pressed={k === i}
            data-wrong={faultsAt(editing.faults, [...path, k]).length > 0 || undefined}
            onClick={() => onChoose(k)}
          >
            {text(x, "name") || tr("without a name")}
          </button>
        ))}
        <button
          type="button"
          onClick={() => {
            editing.change((doc) => insert(doc, path, things.length, { ...NEW[kind] }));
            onChoose(things.length);
          }}
        >
          {tr("+ Add a {one}", { one: ONE[kind] })}
        </button>
      </div>
      {i >= 0 && (
        <div className={classes.thing}>
          <Fields
            key={i}
            path={[...path, i]}
            tail={<Order path={path} index={i} name={nameOf([...path, i], things[i])} onMove={onChoose} />}
          />
        </div>
      )}
    </section>
  );
}

/** Moves a thing of a list, or takes it out. */
function Order({ path, index, name, onMove }: { path: Path; index: number; name: string; onMove?: (to: number) => void }) {
  const editing = useEditing();
  const last = list(editing.doc, path).length - 1;
  const to = (i: number) => {
    editing.change((doc) => move(doc, path, index, i));
    onMove?.(i);
  };
  return (
    <Group gap={8}>
      <Button variant="default" disabled={index === 0} aria-label={tr("Earlier: {name}", { name })} onClick={() => to(index - 1)}>
        ↑
      </Button>
      <Button variant="default" disabled={index === last} aria-label={tr("Later: {name}", { name })} onClick={() => to(index + 1)}>
        ↓
      </Button>
      <Button
        variant="subtle"
        color="stop"
        aria-label={tr("Take out: {name}", { name })}
        onClick={() => editing.change((doc) => (last === 0 ? put(doc, path, undefined) : put(doc, [...path, index], undefined)))}
      >
        {tr("Take out")}
      </Button>
    </Group>
  );
}
