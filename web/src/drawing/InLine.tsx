import { torque } from "../ui/format";
import { filled, hexagon } from "./geometry";
import { tr } from "../words/words";

/** What stands in a line of tools is called, and more of it. */
export function Named({ x, name, note, missing }: { x: number; name?: string; note: string; missing?: boolean }) {
  return (
    <>
      <text x={x} y="176" fontSize="17" fontWeight="700" fill={missing ? "var(--mind)" : "var(--ink)"}>
        {name}
      </text>
      <text x={x} y="197" fontSize="14" fill="var(--soft)">
        {note}
      </text>
    </>
  );
}

interface BetweenProps {
  x: number;
  value: string;
  unit: string;
  below?: string;
  /** N·m */
  limit?: number;
  now?: boolean;
}

/** What goes on from one to the next: the number of the hand in its colour. */
export function Between({ x, value, unit, below, limit, now }: BetweenProps) {
  const color = now ? "var(--now)" : "var(--ink)";
  return (
    <>
      <text x={x} y="22" className="mono" fontSize="21" fontWeight="700" fill={color}>
        {value}
      </text>
      <text x={x} y="41" fontSize="14" fill="var(--soft)">
        {unit}
      </text>
      <line x1={x} x2={x} y1="52" y2="128" stroke={color} strokeDasharray="3 4" strokeWidth="2" />
      <text x={x} y="146" fontSize="13.5" fill="var(--ink)" className="mono">
        {below}
      </text>
      {limit ? (
        <text x={x} y="218" fontSize="13" fill="var(--soft)">
          {tr("to {limit} N·m", { limit: torque(limit) })}
        </text>
      ) : null}
    </>
  );
}

/** The nut at the end of the line, with what it gets, N·m. */
export function Nut({ x, y, gets }: { x: number; y: number; gets: number }) {
  return (
    <g transform={`translate(${x} ${y})`} fill="var(--ink)">
      <polygon points={hexagon(52)} fill="var(--glass)" />
      <polygon points={filled(52, 1)} fill="var(--glass-held)" />
      <polygon points={hexagon(52)} fill="none" stroke="var(--ink)" strokeWidth="2" />
      <text dy="0.1em" className="mono" fontSize="22" fontWeight="700">
        {torque(gets)}
      </text>
      <text dy="1.9em" fontSize="14">
        N·m
      </text>
    </g>
  );
}
