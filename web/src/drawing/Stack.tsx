import { useMediaQuery } from "@mantine/hooks";
import type { Stack as Parts, StackPart } from "../api/types";
import classes from "./stack.module.css";
import { told, tr } from "../words/words";

/** How a part stands in the work: in, being placed, or still to come. */
export type PartState = "in" | "now" | "next" | "later";

interface StackProps {
  stack: Parts;
  title: string;
  /** What stands where, by the part's name; without it nothing is in hand. */
  states?: Map<string, PartState>;
  /** Without names: a mark of the kind. */
  small?: boolean;
  /** How wide it is drawn, px: the names keep their size. */
  room?: number;
}

/** Below it there is no room for the names beside one another: the axis goes down. */
const NARROW = "(max-width: 760px)";

/**
 * The parts of a joint apart along their axis, drawn from the recipe: shape, order, which face looks where. A part that
 * is in has a tick, the one in hand a heavy rim and an arrow, the next one a bar below it.
 */
export function Stack({ stack, title, states, small = false, room = 1180 }: StackProps) {
  const narrow = useMediaQuery(NARROW, false, { getInitialValueInEffect: false }) && !small;
  const down = stack.up || narrow;
  return down ? (
    <Down stack={stack} title={title} states={states} small={small} />
  ) : (
    <Across stack={stack} title={title} states={states} small={small} room={room} />
  );
}

function points(p: { along: number[]; across: number[] }, place: (along: number, across: number) => [number, number]) {
  return p.along
    .map((a, i) =>
      place(a, p.across[i] ?? 0)
        .map((v) => Math.round(v * 10) / 10)
        .join(","),
    )
    .join(" ");
}

function Shape({ part, state, place }: { part: StackPart; state?: PartState; place: (along: number, across: number) => [number, number] }) {
  return (
    <g data-state={state} className={classes.part}>
      {part.lines.map((l, i) => {
        const key = `${part.name} ${i}`;
        return l.mark ? (
          <polyline key={key} points={points(l, place)} className={classes.line} />
        ) : (
          <polygon key={key} points={points(l, place)} className={classes.body} />
        );
      })}
    </g>
  );
}

/** One part by itself, as it is drawn along its axis. */
export function PartDrawing({ part: p, half }: { part: StackPart; half: number }) {
  const wide = p.to - p.from;
  return (
    <svg viewBox={`${p.from - 6} ${-half - 4} ${wide + 12} ${2 * half + 8}`} className={classes.alone} aria-hidden>
      <line x1={p.from - 6} x2={p.to + 6} y1="0" y2="0" className={classes.axis} />
      <Shape part={p} place={(along, across) => [along, -across]} />
    </svg>
  );
}

function label(p: StackPart) {
  return p.count > 1 ? `${p.count} × ${told(p.name)}` : told(p.name);
}

/** Letters that a name may have on one line below its part. */
const LETTERS = 15;

function lines(text: string, most: number) {
  const out: string[] = [];
  for (const word of text.split(" ")) {
    const last = out.at(-1);
    if (last !== undefined && last.length + word.length < most) out[out.length - 1] = `${last} ${word}`;
    else out.push(word);
  }
  return out;
}

type Lying = Required<Pick<StackProps, "stack" | "title" | "small" | "room">> & Pick<StackProps, "states">;

function Across({ stack, title, states, small, room }: Lying) {
  const n = stack.parts.length;
  const rows = n > 12 || (n > 8 && room < 1000) ? 3 : 2;
  const wide = stack.length;
  const scale = Math.max(1, wide / room);
  const font = 15 * scale;
  // A row of names is as high as the longest of them, and two lines at least.
  const row = 7 + 16.5 * Math.max(2, ...stack.parts.map((p) => lines(label(p), LETTERS).length));
  const top = small ? -stack.half - 12 : -stack.half - 46 * scale;
  const bottom = small ? stack.half + 12 : stack.half + (26 + rows * row) * scale;
  const place = (along: number, across: number): [number, number] => [along, -across];
  return (
    <svg className={classes.stack} viewBox={`0 ${top} ${wide} ${bottom - top}`} role="img" aria-label={words(stack, title, states)}>
      <line x1="0" x2={wide} y1="0" y2="0" className={classes.axis} />
      {stack.parts.map((p, i) => {
        const state = states?.get(p.name);
        const middle = (p.from + p.to) / 2;
        const below = stack.half + (24 + (i % rows) * row) * scale;
        const anchor = i === 0 ? "start" : i === n - 1 ? "end" : "middle";
        const x = i === 0 ? Math.max(4, p.from) : i === n - 1 ? Math.min(wide - 4, p.to) : middle;
        return (
          <g key={p.name}>
            <Shape part={p} state={state} place={place} />
            {!small && (
              <>
                <line x1={middle} x2={middle} y1={stack.half + 4} y2={below - font} className={classes.leader} />
                <text x={x} y={below} fontSize={font} textAnchor={anchor} className={classes.name} data-state={state}>
                  {lines(label(p), LETTERS).map((l, k) => (
                    <tspan key={l} x={x} dy={k === 0 ? 0 : font * 1.1}>
                      {k === 0 && state === "in" ? "✓ " : ""}
                      {l}
                    </tspan>
                  ))}
                </text>
                {state === "now" && <Way part={p} middle={middle} y={-stack.half - 12 * scale} scale={scale} wide={wide} />}
                {state === "next" && <line x1={p.from} x2={p.to} y1={stack.half + 3} y2={stack.half + 3} className={classes.nextBar} />}
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** Which way the part in hand looks: an arrow along the axis, and what looks there. */
function Way({ part: p, middle, y, scale, wide }: { part: StackPart; middle: number; y: number; scale: number; wide: number }) {
  const long = 44 * scale;
  const toward = p.way;
  const head = toward * 14 * scale; // of the arrow
  const before = middle > wide * 0.62;
  const at = before ? middle - (toward ? long : 0) - 8 * scale : middle + (toward ? long : 0) + 8 * scale;
  return (
    <g className={classes.way}>
      {toward !== 0 && (
        <path
          d={`M${middle - (toward * long) / 2} ${y} h${toward * long} m${-head} ${-9 * scale} l${head} ${9 * scale} l${-head} ${9 * scale}`}
        />
      )}
      {p.facing && (
        <text x={at} y={y + 5 * scale} fontSize={16 * scale} textAnchor={before ? "end" : "start"}>
          {told(p.facing)}
        </text>
      )}
    </g>
  );
}

/** How much shorter the parts are drawn where the axis goes down: their names lie beside them. */
const SHORT = 0.6;

function Down({ stack, title, states, small }: Required<Pick<StackProps, "stack" | "title" | "small">> & Pick<StackProps, "states">) {
  // Each part has room for two lines beside it.
  const least = small ? 0 : 34;
  const font = 21;
  const spots: { part: StackPart; from: number; shift: number }[] = [];
  let at = 10;
  for (const part of stack.up ? [...stack.parts].reverse() : stack.parts) {
    const depth = (part.to - part.from) * SHORT;
    const room = Math.max(depth, states?.get(part.name) === "now" ? least + 22 * facingOf(part, stack.up).length : least);
    spots.push({ part, from: at + (room - depth) / 2, shift: part.from });
    at += room + (small ? 6 : 9);
  }
  const wide = small ? 2 * stack.half + 24 : 2 * stack.half + 290;
  const middle = stack.half + 12;
  const left = 2 * stack.half + 40;
  return (
    <svg className={classes.stack} viewBox={`0 0 ${wide} ${at}`} role="img" aria-label={words(stack, title, states)}>
      <line x1={middle} x2={middle} y1="0" y2={at} className={classes.axis} />
      {spots.map(({ part: p, from, shift }) => {
        const state = states?.get(p.name);
        const depth = (p.to - p.from) * SHORT;
        const place = (along: number, across: number): [number, number] => {
          const a = (along - shift) * SHORT;
          return [middle + across, from + (stack.up ? depth - a : a)];
        };
        const y = from + depth / 2;
        const facing = state === "now" ? facingOf(p, stack.up) : [];
        const top = y + 7 - 11 * facing.length;
        return (
          <g key={p.name}>
            <Shape part={p} state={state} place={place} />
            {!small && (
              <>
                <text x={left} y={top} fontSize={font} className={classes.name} data-state={state}>
                  {state === "in" ? "✓ " : ""}
                  {label(p)}
                </text>
                {facing.map((line, i) => (
                  <text key={line} x={left} y={top + 22 * (i + 1)} fontSize="17" className={classes.wayText}>
                    {line}
                  </text>
                ))}
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** How the part in hand lies, in lines that fit beside a drawing that goes down. */
function facingOf(p: StackPart, up: boolean) {
  const facing = told(p.facing) ?? "";
  const way = p.way === 0 ? "" : p.way < 0 !== up ? "↑ " : "↓ ";
  return facing ? lines(way + facing.split(",")[0], 27) : [];
}

/** The drawing in words. */
function words(stack: Parts, title: string, states?: Map<string, PartState>) {
  const said = stack.parts.map((p) => {
    const state = states?.get(p.name);
    const how = p.facing ? `${label(p)}, ${told(p.facing)}` : label(p);
    return state === "in" ? tr("{part} in", { part: label(p) }) : state === "now" ? tr("now {how}", { how }) : label(p);
  });
  return tr("{title}, from {first} to {last}: {said}", { title, first: told(stack.first), last: told(stack.last), said: said.join("; ") });
}
