import type { StageTool } from "../../api/types";
import { kilonewtons, number } from "../../ui/format";
import { Between, Named } from "../InLine";
import { Gauge, Hose, Pump } from "./Rig";
import { tr } from "../../words/words";

interface TensionerProps {
  tool: StageTool;
  thread: string;
  /** N that stay in each stud in the end. */
  stays: number;
}

/** Pump, gauge and a stud that is drawn, cut open: what pulls, what the nut is run down on, what is clamped. */
export function Tensioner({ tool: t, thread, stays }: TensionerProps) {
  const d = t.draw!;
  const tag = (kind: string) => t.links.find((l) => l.kind === kind)?.tag;
  return (
    <svg
      viewBox="0 0 1000 300"
      style={{ width: "100%", height: "auto", maxWidth: 1080, display: "block", margin: "0 auto" }}
      role="img"
      aria-label={tr("{tools} draws a stud {thread} with {applied} kN, at {setting} {unit}", {
        tools: t.tools[0],
        thread,
        applied: kilonewtons(d.applied),
        setting: number(t.setting.value),
        unit: t.setting.unit,
      })}
      data-rig={t.tools[0]}
    >
      <g textAnchor="middle">
        <Pump x={16} />
        <Named x={76} name={tag("pump") ?? tr("fetch it")} note={tr("pump")} missing={!tag("pump")} />
        <Hose from={136} to={196} />
        <Gauge x={240} />
        <Named x={240} name={tag("gauge") ?? tr("fetch it")} note={tr("gauge")} missing={!tag("gauge")} />
        <Hose from={284} to={468} />
        <Between x={372} value={number(t.setting.value)} unit={t.setting.unit} now />
        <Named x={372} name={t.tools[0]} note={tr("ram {area} mm²", { area: number(d.area) })} />
      </g>
      {/* the two flanges, cut open */}
      <rect x="470" y="190" width="220" height="46" fill="var(--steel)" stroke="var(--steel-deep)" strokeWidth="2" />
      <rect x="470" y="240" width="220" height="46" fill="var(--steel)" stroke="var(--steel-deep)" strokeWidth="2" />
      {/* bridge and ram */}
      <path d="M496 190 V134 H540 V190 Z M620 190 V134 H664 V190 Z" fill="#4a545e" />
      <rect x="484" y="86" width="192" height="50" rx="4" fill="#6d7780" />
      <rect x="500" y="104" width="160" height="14" fill="var(--now)" />
      {/* stud, puller and nut */}
      <rect x="566" y="26" width="28" height="268" fill="var(--glass)" stroke="var(--ink)" strokeWidth="2" />
      <path d="M566 150 h28 M566 160 h28 M566 60 h28 M566 70 h28" stroke="var(--ink)" strokeWidth="1" />
      <rect x="544" y="40" width="72" height="46" rx="4" fill="#97a1a9" />
      <rect x="546" y="158" width="68" height="32" rx="3" fill="var(--held)" />
      <path d="M580 34 V6 m-9 11 l9 -11 l9 11" fill="none" stroke="var(--now)" strokeWidth="5" strokeLinecap="round" />
      <g fontSize="16" fill="var(--ink)">
        <text x="716" y="40" className="mono" fontSize="21" fontWeight="700" fill="var(--now)">
          {kilonewtons(d.applied)}
          {" kN"}
        </text>
        <text x="716" y="60" fontSize="14" fill="var(--soft)">
          {tr("while it is drawn: {yield} % of its yield", { yield: number(Math.round(d.yield * 100)) })}
        </text>
        <path d="M628 50 H706" stroke="var(--soft)" strokeDasharray="3 4" />
        <text x="716" y="116">
          {tr("it lengthens {lengthens} mm{stroke}", {
            lengthens: number(Math.round(d.lengthens * 100) / 100),
            stroke: d.stroke > 0 && tr(" of {stroke} mm stroke", { stroke: number(d.stroke) }),
          })}
        </text>
        <path d="M664 111 H706" stroke="var(--soft)" strokeDasharray="3 4" />
        <text x="716" y="176" fontWeight="700" fill="var(--held)">
          {tr("nut run down meanwhile")}
        </text>
        <path d="M618 172 H706" stroke="var(--soft)" strokeDasharray="3 4" />
        <text x="716" y="236" className="mono" fontSize="21" fontWeight="700">
          {kilonewtons(stays)}
          {" kN"}
        </text>
        <text x="716" y="256" fontSize="14" fill="var(--soft)">
          {tr("stay{load}, over {d} mm", {
            load: d.load > stays && tr(" of {load} kN at first", { load: kilonewtons(d.load) }),
            d: number(d.length),
          })}
        </text>
        <path d="M692 238 H706" stroke="var(--soft)" strokeDasharray="3 4" />
      </g>
    </svg>
  );
}
