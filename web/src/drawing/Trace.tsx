interface TraceProps {
  /** Pairs of angle, degrees, and torque. */
  points: number[][];
  unit: string;
  /** What was to be reached, and between which values. */
  target?: { value: number; low: number; high: number };
  small?: boolean;
  words: string;
}

const W = 620;
const H = 300;
const LEFT = 60;
const FOOT = 40;

/** A tool's trace: torque over angle, with the band that was to be reached. Small, the line alone. */
export function Trace({ points, unit, target, small, words }: TraceProps) {
  const most = Math.max(...points.map((p) => p[1]! * 1.06), (target?.high ?? 0) * 1.02) || 1;
  const wide = Math.max(points.at(-1)?.[0] ?? 1, 1e-6);
  if (small) {
    const line = points.map((p) => `${((p[0]! / wide) * 60).toFixed(1)},${(20 - (Math.max(0, p[1]!) / most) * 19).toFixed(1)}`).join(" ");
    return (
      <svg viewBox="0 0 60 21" width="60" height="21" role="img" aria-label={words}>
        <polyline points={line} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      </svg>
    );
  }
  const x = (a: number) => LEFT + (a / wide) * (W - LEFT - 14);
  const y = (t: number) => H - FOOT - (Math.max(0, t) / most) * (H - FOOT - 14);
  const peak = points.reduce((a, b) => (b[1]! > a[1]! ? b : a), points[0]!);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={words} style={{ width: "100%", display: "block" }} data-trace={points.length}>
      {target && (
        <>
          <rect
            x={LEFT}
            y={y(target.high)}
            width={W - LEFT - 14}
            height={y(target.low) - y(target.high)}
            fill="color-mix(in srgb, var(--held) 22%, transparent)"
          />
          <line
            x1={LEFT}
            x2={W - 14}
            y1={y(target.value)}
            y2={y(target.value)}
            stroke="var(--held)"
            strokeWidth="1.5"
            strokeDasharray="6 4"
          />
        </>
      )}
      <path d={`M${LEFT} 8 V${H - FOOT} H${W - 8}`} stroke="var(--soft)" fill="none" strokeWidth="1.5" />
      <polyline points={points.map((p) => `${x(p[0]!)},${y(p[1]!)}`).join(" ")} fill="none" stroke="var(--ink)" strokeWidth="3" />
      <circle cx={x(peak[0]!)} cy={y(peak[1]!)} r="6" fill="var(--now)" />
      <g fontSize="16" fill="var(--soft)">
        <text x={x(peak[0]!) - 10} y={Math.max(18, y(peak[1]!) - 8)} textAnchor="end" fill="var(--now)" fontWeight="700">
          {Math.round(peak[1]! * 10) / 10} {unit}
        </text>
        <text x={LEFT} y={H - 16}>
          0°
        </text>
        <text x={W - 14} y={H - 16} textAnchor="end">
          {Math.round(wide * 10) / 10}°
        </text>
        {target && (
          <text x={LEFT - 6} y={y(target.value) + 5} textAnchor="end" fill="var(--held)">
            {Math.round(target.value * 10) / 10}
          </text>
        )}
      </g>
    </svg>
  );
}
