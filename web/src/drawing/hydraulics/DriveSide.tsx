import { tr } from "../../words/words";
interface DriveSideProps {
  /** Which way the nut is to go. */
  to: "tighten" | "loosen";
}

/** Where the nut is, and how far round it the arrow of its turn lies. */
const NUT = { x: 118, y: 92 };
const ROUND = 52;
const WIDE = 258;

/**
 * A hydraulic wrench on its nut, from above: the way the nut goes, and where the firm point lies. The tool is pushed back
 * against the way it turns, so the arm bears on the side that it is pushed to.
 */
export function DriveSide({ to }: DriveSideProps) {
  const tight = to === "tighten";
  const words = tight
    ? tr("Tightening: the nut goes clockwise, and the arm bears flat on a firm point against that.")
    : tr("Loosening: the nut goes against the clock, and the arm bears flat on a firm point against that.");
  return (
    <svg
      viewBox="0 0 480 164"
      role="img"
      aria-label={words}
      data-drive={to}
      style={{ width: "100%", maxWidth: 520, maxHeight: 164, display: "block" }}
    >
      <g transform={tight ? undefined : `translate(${WIDE} 0) scale(-1 1)`}>
        <rect x="18" y="4" width="30" height="58" rx="3" fill="var(--soft)" />
        <path d="M18 14 l30 30 M18 34 l28 28 M30 4 l18 18" stroke="var(--panel)" strokeWidth="2" opacity="0.6" />
        <path d={`M70 34 L${NUT.x - 6} ${NUT.y - 16}`} stroke="var(--now)" strokeWidth="22" strokeLinecap="round" />
        <rect x="48" y="16" width="26" height="36" rx="3" fill="var(--now)" />
        <rect
          x={NUT.x - 36}
          y={NUT.y - 32}
          width="122"
          height="64"
          rx="24"
          fill="var(--steel-deep)"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
        <rect x={NUT.x + 82} y={NUT.y - 18} width="48" height="36" rx="5" fill="var(--steel-deep)" stroke="var(--ink)" strokeWidth="1.5" />
        <circle cx={NUT.x} cy={NUT.y} r="25" fill="var(--glass)" stroke="var(--ink)" strokeWidth="2" />
        <rect x={NUT.x - 10} y={NUT.y - 10} width="20" height="20" fill="var(--ink)" />
        <g fill="none" stroke="var(--ink)" strokeWidth="6" strokeLinecap="round" strokeLinejoin="round">
          <path d={arc(40, 132)} />
          <path d="M-11 -9 L0 0 L-11 9" transform={`translate(${at(132).join(" ")}) rotate(214)`} />
        </g>
      </g>
      <g fontSize="16" fill="var(--ink)">
        <text x="288" y="22" fontWeight="700" fontSize="19">
          {tight ? tr("To tighten") : tr("To loosen")}
        </text>
        <text x="288" y="46">
          {tr("drive out on the side")}
        </text>
        <text x="288" y="66">
          {tr("whose arrow points so")}
        </text>
        <text x="288" y="96" fill="var(--now)" fontWeight="700">
          {tr("arm on that side, flat")}
        </text>
        <text x="288" y="116" fill="var(--now)" fontWeight="700">
          {tr("on a firm point")}
        </text>
        <text x="288" y="148" fill="var(--stop)" fontWeight="700">
          {tr("hands off both")}
        </text>
      </g>
    </svg>
  );
}

/** A place round the nut, degrees from the right, clockwise. */
function at(degrees: number) {
  const a = (degrees * Math.PI) / 180;
  return [NUT.x + ROUND * Math.cos(a), NUT.y + ROUND * Math.sin(a)] as const;
}

const arc = (from: number, to: number) => `M${at(from).join(" ")} A${ROUND} ${ROUND} 0 0 1 ${at(to).join(" ")}`;
