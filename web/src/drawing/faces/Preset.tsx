import { type FaceProps, written } from "./Face";
import { told } from "../../words/words";

/** A wrench without a scale: its one value is engraved, and what sets it is closed. */
export function Preset({ face: f, blind }: FaceProps) {
  return (
    <svg viewBox="0 0 220 130" role="img" aria-label={blind ?? told(f.words)}>
      <rect x="6" y="44" width="208" height="46" rx="8" fill="var(--steel)" stroke="var(--soft)" />
      <circle cx="32" cy="67" r="12" fill="var(--steel-deep)" stroke="var(--soft)" />
      <path d="M27 66 v-5 a5 5 0 0 1 10 0 v5 M25 66 h14 v9 h-14 z" fill="none" stroke="var(--steel-ink)" strokeWidth="1.6" />
      <text x="124" y="75" textAnchor="middle" fontSize="24" fontWeight="700" fill="var(--steel-ink)" className="mono">
        {written(f.value, f.digits)} {f.unit}
      </text>
    </svg>
  );
}
