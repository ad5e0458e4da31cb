import { type FaceProps, written } from "./Face";
import { told } from "../../words/words";

const FROM = -225;
const SWEEP = 270;
const MIDDLE = 100;
const RIM = 90;

/** A place on the rim: degrees from the right, clockwise. */
const at = (angle: number, r: number) => {
  const a = (angle * Math.PI) / 180;
  return [MIDDLE + r * Math.cos(a), MIDDLE + r * Math.sin(a)] as const;
};

const arc = (from: number, to: number, r: number) => {
  const [x1, y1] = at(from, r);
  const [x2, y2] = at(to, r);
  return `M${x1} ${y1} A${r} ${r} 0 ${to - from > 180 ? 1 : 0} 1 ${x2} ${y2}`;
};

/** A dial with its needle at a value; of a wrench with the follower that stays at the peak. Dashed is where it reads badly. */
export function Dial({ face: f, blind }: FaceProps) {
  const angle = (v: number) => FROM + (SWEEP * (v - f.first)) / (f.most - f.first);
  const steps = Math.round((f.most - f.first) / f.minor);
  const thin = Math.max(1, Math.ceil(steps / 110));
  const marks = Array.from({ length: Math.floor(steps / thin) + 1 }, (_, i) => {
    const k = i * thin;
    return { v: f.first + k * f.minor, main: k % f.turn === 0 };
  });
  const needle = angle(f.value);
  const [nx, ny] = at(needle, 72);
  const [tx, ty] = at(needle + 180, 14);
  const [fx, fy] = at(needle + 3, 74);
  return (
    <svg viewBox="0 0 200 196" role="img" aria-label={blind ?? told(f.words)}>
      <circle cx={MIDDLE} cy={MIDDLE} r={RIM} fill="var(--glass)" stroke="var(--steel-deep)" strokeWidth="6" />
      {f.least > f.first && (
        <path d={arc(angle(f.first), angle(f.least), 82)} fill="none" stroke="var(--soft)" strokeWidth="3" strokeDasharray="2 5" />
      )}
      {marks.map((m) => {
        const a = angle(m.v);
        const [x1, y1] = at(a, 84);
        const [x2, y2] = at(a, m.main ? 70 : 77);
        return <line key={m.v} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--ink)" strokeWidth={m.main ? 2.6 : 1} />;
      })}
      {marks
        .filter((m) => m.main)
        .map((m) => {
          const [x, y] = at(angle(m.v), 57);
          return (
            <text key={m.v} x={x} y={y + 4} textAnchor="middle" fontSize={f.most >= 1000 ? 10.5 : 13} fill="var(--ink)" className="mono">
              {written(m.v, f.major % 1 === 0 ? 0 : f.digits)}
            </text>
          );
        })}
      {f.limit !== undefined && f.limit < f.most && (
        <path d={arc(angle(f.limit), angle(f.most), 82)} fill="none" stroke="var(--stop)" strokeWidth="5" data-limit={f.limit} />
      )}
      {!blind && (
        <g transform={`rotate(${needle} ${MIDDLE} ${MIDDLE})`}>
          <rect x={MIDDLE + 77} y={MIDDLE - 5} width="14" height="10" fill="var(--now)" />
        </g>
      )}
      {f.kind === "dial" && <line x1={MIDDLE} y1={MIDDLE} x2={fx} y2={fy} stroke="var(--now)" strokeWidth="2" strokeDasharray="5 4" />}
      <line x1={tx} y1={ty} x2={nx} y2={ny} stroke="var(--ink)" strokeWidth="4" strokeLinecap="round" />
      <circle cx={MIDDLE} cy={MIDDLE} r="7" fill="var(--ink)" />
      <rect x={MIDDLE - 30} y="147" width="60" height="36" rx="4" fill="var(--glass)" />
      {!blind && (
        <text x={MIDDLE} y="164" textAnchor="middle" fontSize="20" fontWeight="700" fill="var(--ink)" className="mono">
          {written(f.value, f.digits)}
        </text>
      )}
      <text x={MIDDLE} y="180" textAnchor="middle" fontSize="13" fill="var(--soft)">
        {f.unit}
      </text>
    </svg>
  );
}
