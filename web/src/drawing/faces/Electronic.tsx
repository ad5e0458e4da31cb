import { type FaceProps, written } from "./Face";
import { told, tr } from "../../words/words";

/** A display: the value with its unit, dark as it is. */
export function Electronic({ face: f, blind }: FaceProps) {
  return (
    <svg viewBox="0 0 220 130" role="img" aria-label={blind ?? told(f.words)}>
      <rect x="6" y="8" width="208" height="114" rx="14" fill="#17212b" stroke="var(--soft)" />
      <text x="110" y="76" textAnchor="middle" fontSize="52" fontWeight="700" fill="#f4f1ea" className="mono">
        {written(f.value, f.digits)}
      </text>
      <text x="110" y="106" textAnchor="middle" fontSize="18" fill="#b9c2ca" className="mono">
        {tr("{unit} · peak", { unit: f.unit })}
      </text>
    </svg>
  );
}
