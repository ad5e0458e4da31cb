import { Box, Group, Slider, Text } from "@mantine/core";
import { type PointerEvent, type ReactNode, useRef } from "react";
import type { StageTool } from "../../api/types";
import { Rig } from "../../drawing/hydraulics/Rig";
import { Tensioner } from "../../drawing/hydraulics/Tensioner";
import { Between, Named, Nut } from "../../drawing/InLine";
import { number, torque } from "../../ui/format";
import { Facts } from "./Settings";
import classes from "./toolup.module.css";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

type Link = StageTool["links"][number];

interface ChainProps {
  stages: StageTool[];
  thread: string;
  /** The group it was chosen for. */
  of?: string;
  /** mm of a socket or bit that the crib has none of. */
  fetch?: number;
  inside?: boolean;
  /** Turns the offset end to so many degrees from straight ahead. */
  onTurn?: (angle: number) => void;
  children?: ReactNode;
}

/** A chain of tools, drawn and in numbers, and what can be done with it. */
export function Chain({ stages, thread, of, fetch, inside, onTurn, children }: ChainProps) {
  const last = stages.at(-1)!;
  const end = last.links.find((l) => l.kind === "offset end");
  return (
    <>
      <Box visibleFrom="xs" className={classes.chainBox}>
        {last.draw ? (
          <Tensioner tool={stages[0]!} thread={thread} stays={last.draw.load} />
        ) : last.pressed ? (
          <Rig
            tool={last}
            stages={stages.length}
            thread={thread}
            socket={fetch ? tr("socket {fetch} mm", { fetch: number(fetch) }) : tr("socket")}
          />
        ) : (
          <Drawing last={last} stages={stages.length} thread={thread} fetch={fetch} inside={inside} onTurn={onTurn} />
        )}
      </Box>
      <Text fz={19} pb={8} hiddenFrom="xs">
        <Say
          of="{links}, set to {setting}"
          with={{
            links: <b>{last.links.map((l) => l.tag).join(", ")}</b>,
            setting: (
              <b className="mono">
                {number(last.setting.value)} {last.setting.unit}
              </b>
            ),
          }}
        />
      </Text>
      {end && onTurn && (
        <div className={classes.turn}>
          <span>
            <Say
              of={
                end.angle === 90
                  ? "Offset end from straight ahead: {angle}. At 90° it changes nothing"
                  : "Offset end from straight ahead: {angle}"
              }
              with={{ angle: <b className="mono">{number(end.angle ?? 0)}°</b> }}
            />
          </span>
          <Slider
            min={0}
            max={150}
            step={5}
            value={end.angle ?? 0}
            onChange={onTurn}
            label={(v) => `${v}°`}
            thumbLabel="Angle of the offset end from straight ahead, degrees"
            marks={[{ value: 0, label: tr("straight") }, { value: 45 }, { value: 90, label: "90°" }, { value: 135 }]}
            size="xl"
            thumbSize={34}
            data-turn
          />
        </div>
      )}
      <Group justify="space-between" gap={16} className={classes.facts}>
        <Facts tool={last} of={of} />
        {children}
      </Group>
    </>
  );
}

const STEEL = "#6d7780";
const DARK = "#4a545e";
const LIGHT = "#97a1a9";

/** How wide each link is drawn, and the room before the next for what goes on there. */
const wide: Partial<Record<Link["kind"], number>> = {
  wrench: 270,
  adapter: 46,
  multiplier: 150,
  "offset end": 150,
  extension: 120,
  socket: 76,
};
const BETWEEN = 96;
const AXIS = 104;

/** The tools in line, with the torque, the drive and what it bears where each meets the next. */
function Drawing({
  last,
  stages,
  thread,
  fetch,
  inside,
  onTurn,
}: {
  last: StageTool;
  stages: number;
  thread: string;
  fetch?: number;
  inside?: boolean;
  onTurn?: (angle: number) => void;
}) {
  const links: Link[] = last.links.some((l) => l.kind === "socket")
    ? last.links
    : [
        ...last.links,
        { kind: "socket", tag: "", name: fetch ? `${inside ? tr("bit") : tr("socket")} ${fetch} mm` : "socket", torque: last.lands },
      ];
  let x = 16;
  const placed = links.map((l) => {
    const at = x;
    x += (wide[l.kind] ?? 0) + BETWEEN;
    return { l, at, end: at + (wide[l.kind] ?? 0) };
  });
  const nut = x + 20;
  const width = nut + 92;
  return (
    <svg
      viewBox={`0 0 ${width} 226`}
      className={classes.chain}
      style={{ maxWidth: Math.min(width, 1080) }}
      role="img"
      aria-label={tr("{links}: set to {setting} {unit}, {lands} N·m at the nut", {
        links: links.map((l) => l.tag || told(l.name)).join(tr(", then ")),
        setting: number(last.setting.value),
        unit: last.setting.unit,
        lands: torque(last.lands),
      })}
      data-chain={links.map((l) => l.tag).join(" ")}
    >
      {placed.map(({ l, at, end }, i) => (
        <g key={`${l.kind} ${l.tag}`}>
          <Piece link={l} x={at} onTurn={onTurn} />
          <Named x={(at + end) / 2} name={l.tag || tr("fetch it")} note={l.kind === "wrench" ? "" : told(l.name)} missing={l.tag === ""} />
          <Between
            x={end + BETWEEN / 2}
            value={i === 0 ? number(last.setting.value) : torque(l.torque)}
            unit={i === 0 ? last.setting.unit : "N·m"}
            below={l.drive && `${l.drive} in`}
            limit={l.limit}
            now={i === 0}
          />
        </g>
      ))}
      <Nut x={nut + 24} y={AXIS} gets={last.lands} />
      <Named x={nut + 24} name={thread} note={stages > 1 ? tr("stage {stage}", { stage: last.stage }) : ""} />
    </svg>
  );
}

/** One link as it lies in line. */
function Piece({ link: l, x, onTurn }: { link: Link; x: number; onTurn?: (angle: number) => void }) {
  switch (l.kind) {
    case "wrench":
      return (
        <g fill={STEEL}>
          <rect x={x} y={AXIS - 8} width="130" height="16" rx="8" fill={DARK} />
          <rect x={x + 130} y={AXIS - 14} width="56" height="28" rx="2" />
          <rect x={x + 186} y={AXIS - 6} width="50" height="12" fill={LIGHT} />
          <circle cx={x + 249} cy={AXIS} r="21" />
        </g>
      );
    case "adapter":
      return (
        <g fill={STEEL}>
          <rect x={x} y={AXIS - 17} width="24" height="34" rx="2" />
          <rect x={x + 24} y={AXIS - 25} width="22" height="50" rx="2" fill={DARK} />
        </g>
      );
    case "multiplier":
      return (
        <g fill={STEEL}>
          <rect x={x} y={AXIS - 38} width="150" height="76" rx="8" fill={DARK} />
          <path d={`M${x + 30} ${AXIS - 38} V${AXIS - 66} H${x + 150} V${AXIS - 54} H${x + 44} V${AXIS - 38} Z`} fill="var(--now)" />
          <circle cx={x + 75} cy={AXIS} r="28" fill="none" stroke="#aab2b9" strokeWidth="6" />
          <circle cx={x + 75} cy={AXIS} r="9" />
        </g>
      );
    case "offset end":
      return <Offset link={l} x={x} onTurn={onTurn} />;
    case "extension":
      return (
        <g fill={STEEL}>
          <rect x={x} y={AXIS - 16} width="22" height="32" rx="2" fill={DARK} />
          <rect x={x + 22} y={AXIS - 8} width="76" height="16" />
          <rect x={x + 98} y={AXIS - 13} width="22" height="26" rx="2" fill={LIGHT} />
        </g>
      );
    default:
      return l.inside ? (
        <g>
          <rect x={x} y={AXIS - 24} width="30" height="48" rx="3" fill={DARK} />
          <path d={`M${x + 30} ${AXIS - 10} h40 v20 h-40 z`} fill={LIGHT} />
        </g>
      ) : (
        <g fillOpacity={l.tag ? 1 : 0.35} stroke={l.tag ? undefined : "var(--ink)"} strokeDasharray={l.tag ? undefined : "5 4"}>
          <rect x={x} y={AXIS - 24} width="30" height="48" rx="3" fill={LIGHT} />
          <rect x={x + 30} y={AXIS - 34} width="46" height="68" rx="5" fill={DARK} />
        </g>
      );
  }
}

/** An offset end seen from above, at its angle from straight ahead; a hand turns it on the drawing. */
function Offset({ link: l, x, onTurn }: { link: Link; x: number; onTurn?: (angle: number) => void }) {
  const svg = useRef<SVGGElement>(null);
  const angle = l.angle ?? 0;
  const turn = (e: PointerEvent<SVGCircleElement>) => {
    if (!onTurn || e.buttons === 0 || !svg.current) return;
    const inverse = svg.current.getScreenCTM()?.inverse();
    if (!inverse) return;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(inverse);
    const a = (Math.atan2(-(p.y - AXIS), p.x - (x + 24)) * 180) / Math.PI;
    onTurn(Math.min(150, Math.max(0, Math.round(Math.abs(a) / 5) * 5)));
  };
  return (
    <g ref={svg}>
      <line x1={x + 24} x2={x + 150} y1={AXIS} y2={AXIS} stroke="var(--soft)" strokeDasharray="4 5" />
      <g transform={`rotate(${-angle} ${x + 24} ${AXIS})`}>
        <rect x={x + 24} y={AXIS - 10} width="72" height="20" fill={STEEL} />
        <circle cx={x + 24} cy={AXIS} r="20" fill={DARK} />
        <circle cx={x + 108} cy={AXIS} r="24" fill={STEEL} />
        <circle cx={x + 108} cy={AXIS} r="12" fill="var(--panel)" />
        {onTurn && (
          <circle
            cx={x + 108}
            cy={AXIS}
            r="24"
            fill="transparent"
            stroke="var(--now)"
            strokeWidth="4"
            className={classes.handle}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={turn}
            data-turns
          />
        )}
      </g>
    </g>
  );
}
