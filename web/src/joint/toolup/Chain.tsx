import { Box, Group, Text } from "@mantine/core";
import type { ReactNode } from "react";
import type { StageTool, Way } from "../../api/types";
import { filled, hexagon } from "../../drawing/geometry";
import { number, torque } from "../../ui/format";
import { Facts } from "./Settings";
import classes from "./toolup.module.css";

interface ChainProps {
  way: { links: Pick<Way["links"][number], "kind" | "tag" | "note">[]; stages: StageTool[] };
  thread: string;
  /** The group it was chosen for. */
  of?: string;
  children?: ReactNode;
}

/** A chain of tools, drawn and in numbers, and what can be done with it. */
export function Chain({ way, thread, of, children }: ChainProps) {
  const last = way.stages.at(-1)!;
  return (
    <>
      <Box visibleFrom="xs">
        <Drawing way={way} thread={thread} />
      </Box>
      <Text fz={19} pb={8} hiddenFrom="xs">
        <b>{last.tools.join(" and ")}</b>, set to{" "}
        <b className="mono">
          {number(last.setting.value)} {last.setting.unit}
        </b>
      </Text>
      <Group justify="space-between" gap={16} className={classes.facts}>
        <Facts tool={last} of={of} />
        {children}
      </Group>
    </>
  );
}

/** The tools in line, with the torque where each meets the next. */
function Drawing({ way, thread }: ChainProps) {
  const multiplier = way.links.find((l) => l.kind === "multiplier");
  const wrench = way.links[0]!;
  const last = way.stages.at(-1)!;
  const nut = multiplier ? 930 : 640;
  const width = nut + 110;
  return (
    <svg
      viewBox={`0 0 ${width} 210`}
      className={classes.chain}
      style={{ maxWidth: width }}
      role="img"
      aria-label={`${wrench.tag} set to ${number(last.setting.value)} ${last.setting.unit} gives ${torque(last.lands)} N·m at the nut`}
    >
      <g fill={STEEL}>
        <rect x="24" y="96" width="150" height="16" rx="8" fill={DARK} />
        <rect x="174" y="90" width="62" height="28" rx="2" />
        <rect x="236" y="98" width="60" height="12" fill={LIGHT} />
        <circle cx="312" cy="104" r="21" />
      </g>
      <Named x={170} name={`Wrench ${wrench.tag}`} note={wrench.note} />
      <Interface x={370} value={number(last.setting.value)} unit={last.setting.unit} color="var(--now)" />
      {multiplier && (
        <>
          <g fill={STEEL}>
            <rect x="452" y="66" width="150" height="76" rx="8" fill={DARK} />
            <path d="M482 66 V38 H602 V50 H496 V66 Z" fill="var(--now)" />
            <circle cx="527" cy="104" r="28" fill="none" stroke="#aab2b9" strokeWidth="6" />
            <circle cx="527" cy="104" r="9" />
          </g>
          <Named x={527} name={`Multiplier ${multiplier.tag}`} note={multiplier.note} />
          <Interface x={670} value={torque(last.lands)} unit="N·m" color="var(--ink)" />
        </>
      )}
      <g transform={`translate(${nut - 180} 0)`}>
        <rect x="0" y="80" width="30" height="48" rx="3" fill={LIGHT} />
        <rect x="30" y="70" width="46" height="68" rx="5" fill={DARK} />
      </g>
      <Named x={nut - 142} name="Socket" note="of the nut’s size" />
      <g transform={`translate(${nut + 10} 104)`} fill="var(--ink)">
        <polygon points={hexagon(52)} fill="var(--glass)" />
        <polygon points={filled(52, 1)} fill="var(--glass-held)" />
        <polygon points={hexagon(52)} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <text dy="0.1em" className="mono" fontSize="22" fontWeight="700">
          {torque(last.lands)}
        </text>
        <text dy="1.9em" fontSize="14">
          N·m
        </text>
      </g>
      <Named x={nut + 10} note={`${thread}${way.stages.length > 1 ? `, stage ${last.stage}` : ""}`} />
    </svg>
  );
}

const STEEL = "#6d7780";
const DARK = "#4a545e";
const LIGHT = "#97a1a9";

/** What a link is called, and more of it. */
function Named({ x, name, note }: { x: number; name?: string; note: string }) {
  return (
    <>
      <text x={x} y="168" fontSize="17" fontWeight="700" fill="var(--ink)">
        {name}
      </text>
      <text x={x} y="190" fontSize="15" fill="var(--soft)">
        {note}
      </text>
    </>
  );
}

/** The torque where a link meets the next. */
function Interface({ x, value, unit, color }: { x: number; value: string; unit: string; color: string }) {
  return (
    <>
      <text x={x} y="24" className="mono" fontSize="22" fontWeight="700" fill={color}>
        {value}
      </text>
      <text x={x} y="46" fontSize="15" fill="var(--soft)">
        {unit}
      </text>
      <line x1={x} x2={x} y1="58" y2="146" stroke={color} strokeDasharray="3 4" strokeWidth="2" />
    </>
  );
}
