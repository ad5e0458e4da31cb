import { useId } from "react";
import { type FaceProps, written } from "./Face";
import { told, tr } from "../../words/words";

const EDGE = 112;
const MIDDLE = 110;
const APART = 30;
const ROUND = 62;

/**
 * A tube with its main marks, and the thimble whose edge covers those that are passed. The marks lie along the tube; the
 * thimble's own go round it, so they crowd toward its sides.
 */
export function Ring({ face: f, blind }: FaceProps) {
  const clip = useId();
  const handle = f.kind === "torque screwdriver";
  const past = f.turn > 0 ? f.minors / f.turn : 0;
  // Seen above the edge: the marks that are not passed yet, or, where they rise toward the hand, those that are.
  const marks = Array.from({ length: 6 }, (_, i) => {
    const away = f.falls ? i + past : i - past;
    const value = f.falls ? f.main - i * f.major : f.main + i * f.major;
    return { value, y: EDGE - away * APART };
  }).filter((m) => m.y <= EDGE + 0.5 && m.y > 16 && m.value <= f.most * 1.0001 && m.value >= f.first - f.major / 1e6);
  const round = Array.from({ length: f.turn > 1 ? Math.min(f.turn, 25) : 0 }, (_, i) => {
    const k = i - Math.floor(Math.min(f.turn, 25) / 2);
    const angle = (k * 2 * Math.PI) / f.turn;
    return { k, angle, mark: (((f.minors + k) % f.turn) + f.turn) % f.turn, x: MIDDLE + ROUND * Math.sin(angle) };
  }).filter((m) => Math.abs(m.angle) < 1.35);
  const every = f.turn > 12 ? 5 : 1;
  return (
    <svg viewBox="0 0 220 196" role="img" aria-label={blind ?? told(f.words)}>
      <defs>
        <clipPath id={clip}>
          <rect x="66" y="0" width="88" height={EDGE} />
        </clipPath>
      </defs>
      <rect x="66" y="2" width="88" height={EDGE} fill="var(--steel)" stroke="var(--soft)" />
      <g clipPath={`url(#${clip})`} stroke="var(--steel-ink)" fill="var(--steel-ink)" className="mono">
        <line x1={MIDDLE} x2={MIDDLE} y1="2" y2={EDGE} strokeWidth="2" />
        {marks.map((m) => (
          <g key={m.value}>
            <line x1="82" x2="138" y1={m.y} y2={m.y} strokeWidth="2" />
            <text x="80" y={m.y - 4} fontSize="14" stroke="none">
              {written(m.value, f.major % 1 === 0 && f.first % 1 === 0 ? 0 : f.digits)}
            </text>
          </g>
        ))}
      </g>
      <rect
        x={MIDDLE - ROUND - 2}
        y={EDGE}
        width={2 * ROUND + 4}
        height="82"
        rx={handle ? 16 : 0}
        fill="var(--steel-deep)"
        stroke="var(--soft)"
      />
      {round.map((m) => (
        <g key={m.k} className="mono" fill="var(--steel-ink)" stroke="var(--steel-ink)">
          <line
            x1={m.x}
            x2={m.x}
            y1={EDGE}
            y2={EDGE + (m.k === 0 ? 24 : m.mark % every === 0 ? 17 : 10)}
            strokeWidth={m.k === 0 ? 4 : 1.4 * Math.cos(m.angle)}
            stroke={m.k === 0 ? "var(--now)" : undefined}
          />
          {(m.k === 0 || (m.mark % every === 0 && Math.abs(m.k) >= (every > 1 ? 3 : 1))) && (
            <text
              x={m.x}
              y={EDGE + (m.k === 0 ? 44 : 34)}
              textAnchor="middle"
              fontSize={m.k === 0 ? 20 : 13 * (0.6 + 0.4 * Math.cos(m.angle))}
              fontWeight={m.k === 0 ? 700 : 400}
              stroke="none"
              fill={m.k === 0 ? "var(--on-steel-now)" : undefined}
            >
              {m.mark}
            </text>
          )}
        </g>
      ))}
      {f.turn <= 1 && <line x1={MIDDLE} x2={MIDDLE} y1={EDGE} y2={EDGE + 22} stroke="var(--now)" strokeWidth="4" />}
      <line x1={MIDDLE + ROUND + 2} x2="206" y1={EDGE} y2={EDGE} stroke="var(--now)" strokeWidth="3" />
      <text x={MIDDLE} y={EDGE + 68} textAnchor="middle" fontSize="16" fontWeight="700" fill="var(--steel-ink)" className="mono">
        {blind ? f.unit : `${written(f.value, f.digits)} ${f.unit}`}
      </text>
      <text x="207" y={EDGE - 8} textAnchor="end" fontSize="13" fill="var(--now)">
        {tr("edge")}
      </text>
    </svg>
  );
}
