import type { Tried } from "../api/types";
import { number } from "../ui/format";
import classes from "./own.module.css";
import { tag } from "../words/locale";
import { tr } from "../words/words";

const W = 460;
const H = 250;
const LEFT = 52;
const FOOT = 34;

/** Torque over load of each bolt, with the lines of the low, mean and high nut factor. */
export function TrialChart({ tried: t }: { tried: Tried }) {
  const most = t.top[1]!.load;
  const tall = Math.max(...t.top.map((p) => p.torque), ...t.points.map((p) => p.torque)) * 1.04;
  const x = (load: number) => LEFT + (load / most) * (W - LEFT - 12);
  const y = (torque: number) => H - FOOT - (torque / tall) * (H - FOOT - 10);
  const line = (i: number) => `${x(0)},${y(t.base)} ${x(t.top[i]!.load)},${y(t.top[i]!.torque)}`;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className={classes.chart}
      role="img"
      aria-label={tr("{count} bolts: K {low} to {high}, in the middle {mean}", {
        count: t.points.length,
        low: k(t.low),
        high: k(t.high),
        mean: k(t.mean),
      })}
      data-trial
    >
      <polygon points={`${line(0)} ${line(2).split(" ").reverse().join(" ")}`} fill="color-mix(in srgb, var(--held) 24%, transparent)" />
      <polyline points={line(1)} stroke="var(--held)" strokeWidth="2.5" fill="none" />
      <path d={`M${LEFT} 6 V${H - FOOT} H${W - 6}`} stroke="var(--soft)" fill="none" strokeWidth="1.5" />
      <g fill="var(--soft)" fontSize="14">
        {marks(most).map((v) => (
          <text key={v} x={x(v)} y={H - 15} textAnchor="middle">
            {number(v)}
          </text>
        ))}
        {marks(tall).map((v) => (
          <text key={v} x={LEFT - 6} y={y(v) + 5} textAnchor="end">
            {number(v)}
          </text>
        ))}
      </g>
      <text x={W - 8} y={H - 1} textAnchor="end" fontSize="14" fill="var(--soft)">
        {tr("load, kN")}
      </text>
      <text x={LEFT + 6} y="16" fontSize="14" fill="var(--soft)">
        {tr("torque, N·m")}
      </text>
      {t.points.map((p, i) => {
        const far = t.far.includes(i + 1);
        return (
          <g key={`${p.load}/${p.torque}/${i}`} data-far={far || undefined}>
            {far ? (
              <path d={`M${x(p.load) - 6} ${y(p.torque) - 6} l12 12 m0 -12 l-12 12`} stroke="var(--stop)" strokeWidth="3" />
            ) : (
              <circle cx={x(p.load)} cy={y(p.torque)} r="5" fill="var(--ink)" />
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** Round numbers along an axis. */
function marks(top: number) {
  const rough = top / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = power * ([1, 2, 2.5, 5, 10].find((m) => m * power >= rough) ?? 10);
  return Array.from({ length: Math.floor(top / step) }, (_, i) => (i + 1) * step);
}

const thousandths = new Intl.NumberFormat(tag, { minimumFractionDigits: 3, maximumFractionDigits: 3 });

/** A nut factor. */
export const k = (v: number) => thousandths.format(v);
