import type { StageTool } from "../../api/types";
import { number, torque } from "../../ui/format";
import { Between, Named, Nut } from "../InLine";
import { told, tr } from "../../words/words";

const STEEL = "#6d7780";
const DARK = "#4a545e";
const LIGHT = "#97a1a9";
const AXIS = 104;

interface RigProps {
  tool: StageTool;
  stages: number;
  thread: string;
  /** What a socket that the crib has none of is; empty where it is not known. */
  socket: string;
}

type Link = StageTool["links"][number];

/** Pump, gauge, hose, tool and nut in line, with the pressure and the torque between them. */
export function Rig({ tool: t, stages, thread, socket }: RigProps) {
  const link = (kind: Link["kind"]) => t.links.find((l) => l.kind === kind);
  const wrench = link("hydraulic wrench");
  const pump = link("pump");
  const gauge = link("gauge");
  const fits = link("socket");
  const pressure = `${number(t.setting.value)} ${t.setting.unit}`;
  const words = [pump?.tag ?? "a pump", gauge?.tag ?? tr("its gauge"), wrench?.tag ?? t.tools[0], fits?.tag ?? socket].join(tr(", then "));
  return (
    <svg
      viewBox="0 0 1000 226"
      style={{ width: "100%", height: "auto", maxWidth: 1080, display: "block", margin: "0 auto" }}
      textAnchor="middle"
      role="img"
      aria-label={tr("{words}: {pressure} on the gauge, {lands} N·m at the nut", { words, pressure, lands: torque(t.lands) })}
      data-rig={t.tools[0]}
    >
      <Pump x={16} />
      <Named x={76} name={pump?.tag ?? tr("fetch it")} note={tr("pump")} missing={!pump} />
      <Hose from={136} to={196} />
      <Gauge x={240} />
      <Named x={240} name={gauge?.tag ?? tr("fetch it")} note={tr("gauge")} missing={!gauge} />
      <Hose from={284} to={420} />
      <Between x={352} value={number(t.setting.value)} unit={t.setting.unit} now />
      <g fill={STEEL}>
        <path d={`M420 ${AXIS - 12} h46 v24 h-46 z`} fill={DARK} />
        <rect x="460" y={AXIS - 36} width="104" height="72" rx="22" />
        <rect x="556" y={AXIS - 28} width="36" height="56" rx="12" fill={LIGHT} />
        <path d={`M528 ${AXIS - 30} V${AXIS - 66} H600 V${AXIS - 52} H544 V${AXIS - 30} Z`} fill="var(--now)" />
      </g>
      <Named x={516} name={wrench?.tag ?? t.tools[0]} note={tr("hydraulic wrench")} />
      <Between x={648} value={torque(t.lands)} unit="N·m" below={wrench?.drive && `${wrench.drive} in`} limit={wrench?.limit} />
      <g fillOpacity={fits ? 1 : 0.35} stroke={fits ? undefined : "var(--ink)"} strokeDasharray={fits ? undefined : "5 4"}>
        <rect x="704" y={AXIS - 24} width="30" height="48" rx="3" fill={LIGHT} />
        <rect x="734" y={AXIS - 34} width="46" height="68" rx="5" fill={DARK} />
      </g>
      <Named x={742} name={fits?.tag ?? tr("fetch it")} note={told(fits?.name) ?? socket} missing={!fits} />
      <Nut x={906} y={AXIS} gets={t.lands} />
      <Named x={906} name={thread} note={stages > 1 ? tr("stage {stage}", { stage: t.stage }) : ""} />
    </svg>
  );
}

export function Pump({ x }: { x: number }) {
  return (
    <g>
      <rect x={x} y={AXIS - 34} width="120" height="68" rx="8" fill={DARK} />
      <rect x={x + 14} y={AXIS - 58} width="52" height="26" rx="4" fill={STEEL} />
      <circle cx={x + 92} cy={AXIS} r="15" fill={LIGHT} />
      <path d={`M${x + 92} ${AXIS} l8 -11`} stroke={DARK} strokeWidth="4" />
    </g>
  );
}

export function Gauge({ x }: { x: number }) {
  return (
    <g>
      <circle cx={x} cy={AXIS} r="44" fill="var(--glass)" stroke={DARK} strokeWidth="6" />
      <path
        d={`M${x - 25} ${AXIS + 25} A35 35 0 1 1 ${x + 25} ${AXIS + 25}`}
        fill="none"
        stroke="var(--soft)"
        strokeWidth="3"
        strokeDasharray="1 7"
      />
      <path d={`M${x} ${AXIS} l-12 -24`} stroke="var(--ink)" strokeWidth="4" strokeLinecap="round" />
      <circle cx={x} cy={AXIS} r="6" fill="var(--ink)" />
    </g>
  );
}

/** A hose hangs a little, and is never stretched. */
export function Hose({ from, to }: { from: number; to: number }) {
  const middle = (from + to) / 2;
  return <path d={`M${from} ${AXIS} Q${middle} ${AXIS + 22} ${to} ${AXIS}`} fill="none" stroke="var(--ink)" strokeWidth="7" />;
}
