import type { StageTool } from "../../api/types";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { tr } from "../../words/words";

const W = 460;
const H = 250;
const LEFT = 56;
const FOOT = 34;

/** A hydraulic wrench's own chart, with what each stage takes off it. */
export function OwnChart({ tools, shown }: { tools: StageTool[]; shown: number }) {
  const t = tools[shown]!;
  const rows = t.chart ?? [];
  const first = rows[0];
  const last = rows.at(-1);
  if (!first || !last) return null;
  const x = (p: number) => LEFT + (p / last.pressure) * (W - LEFT - 16);
  const y = (m: number) => H - FOOT - (m / last.torque) * (H - FOOT - 26);
  return (
    <Panel title={tr("Its own chart")} aside={t.tools[0]}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        style={{ width: "100%", display: "block" }}
        role="img"
        aria-label={tr("The chart of {tools}: {rows}", {
          tools: t.tools[0],
          rows: rows
            .map((r) =>
              tr("{pressure} {unit} gives {torque} N·m", { pressure: number(r.pressure), unit: t.setting.unit, torque: torque(r.torque) }),
            )
            .join(", "),
        })}
        data-chart={t.tools[0]}
      >
        <path d={`M${LEFT} 6 V${H - FOOT} H${W - 6}`} stroke="var(--soft)" fill="none" strokeWidth="1.5" />
        <polyline points={rows.map((r) => `${x(r.pressure)},${y(r.torque)}`).join(" ")} fill="none" stroke="var(--ink)" strokeWidth="2.5" />
        {rows.map((r) => (
          <circle key={r.pressure} cx={x(r.pressure)} cy={y(r.torque)} r="4.5" fill="var(--panel)" stroke="var(--ink)" strokeWidth="2" />
        ))}
        {tools.map((s, i) => (
          <g key={s.stage} stroke={i === shown ? "var(--now)" : "var(--soft)"} fill="none" opacity={i === shown ? 1 : 0.6}>
            <path
              d={`M${LEFT} ${y(s.lands)} H${x(s.setting.value)} V${H - FOOT}`}
              strokeWidth={i === shown ? 2.5 : 1.5}
              strokeDasharray="5 4"
            />
            <circle cx={x(s.setting.value)} cy={y(s.lands)} r={i === shown ? 6 : 4} fill={i === shown ? "var(--now)" : "var(--soft)"} />
          </g>
        ))}
        <g fontSize="14" fill="var(--soft)">
          {[first, last].map((r) => (
            <text key={r.pressure} x={x(r.pressure)} y={H - 15} textAnchor="middle">
              {number(r.pressure)}
            </text>
          ))}
          {[first, last].map((r) => (
            <text key={r.torque} x={LEFT - 8} y={y(r.torque) + 5} textAnchor="end">
              {torque(r.torque)}
            </text>
          ))}
          <text x={W - 8} y={H - 1} textAnchor="end">
            {t.setting.unit}
          </text>
          <text x={LEFT + 8} y="18">
            N·m
          </text>
        </g>
        <text x={x(t.setting.value)} y={H - 15} textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--now)" className="mono">
          {number(t.setting.value)}
        </text>
        <text
          x={x(t.setting.value) - 10}
          y={y(t.lands) - 8}
          textAnchor="end"
          fontSize="15"
          fontWeight="700"
          fill="var(--now)"
          className="mono"
        >
          {torque(t.lands)}
        </text>
      </svg>
      <p className="soft">{tr("Straight between its rows, never past them. Another tool’s chart is another piston’s.")}</p>
    </Panel>
  );
}
