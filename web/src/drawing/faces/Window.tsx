import { type FaceProps, written } from "./Face";
import { told } from "../../words/words";

/** A window in the tube: the number at its line is what it is set to, those above and below come with the next turn. */
export function Window({ face: f, blind }: FaceProps) {
  const rows = [-1, 0, 1].map((k) => ({ k, v: f.value + (f.falls ? -k : k) * f.minor })).filter((r) => r.v >= f.first && r.v <= f.most);
  return (
    <svg viewBox="0 0 200 170" role="img" aria-label={blind ?? told(f.words)}>
      <rect x="50" y="2" width="100" height="166" fill="var(--steel)" stroke="var(--soft)" />
      <rect x="66" y="42" width="68" height="86" rx="7" fill="var(--glass)" stroke="var(--steel-ink)" strokeWidth="3" />
      {rows.map(({ k, v }) => (
        <text
          key={k}
          x="100"
          y={91 - k * 27}
          textAnchor="middle"
          fontSize={k === 0 ? 24 : 15}
          fontWeight={k === 0 ? 700 : 400}
          fill={k === 0 ? "var(--now)" : "var(--soft)"}
          className="mono"
        >
          {written(v, f.digits)}
        </text>
      ))}
      <path d="M52 83 h12 M136 83 h12" stroke="var(--now)" strokeWidth="4" />
      <text x="100" y="152" textAnchor="middle" fontSize="14" fill="var(--steel-ink)">
        {f.unit}
      </text>
    </svg>
  );
}
