import type { BenchPicture } from "../api/types";
import { kilonewtons, millimetres } from "../ui/format";
import { tr } from "../words/words";
import classes from "./bench.module.css";

/** The drawing: 400 wide, bars from the hub outward. */
const SIZE = 400;
const MIDDLE = SIZE / 2;
const HUB = 58;
const RIM = 152;
/** Nothing is drawn nearer to the edge than that. */
const EDGE = 9;
/** Numbers of bolts stand that far out. */
const NUMBERS = 176;
/** How deep the closure dents the hub at the most. */
const DENT = 20;

interface RingProps {
  picture: BenchPicture;
  load: number;
  /** How many pulls were made; what is shown is after the last of them. */
  at: number;
  /** The scale that all rings share, N, and the closure, mm. */
  scale: number;
  closed: number;
  words: string;
}

/** A ring of bars, one a bolt, against what they are to carry; inside it how far the joint has closed round the ring. */
export function Ring({ picture: t, load, at, scale, closed, words }: RingProps) {
  const n = t.moments[0]?.loads.length ?? 0;
  const m = at > 0 ? t.moments[Math.min(at, t.moments.length) - 1] : undefined;
  const out = (newtons: number) => HUB + (Math.min(newtons, scale) / scale) * (RIM - HUB);
  const width = Math.min(15, ((2 * Math.PI * HUB) / n) * 0.72);
  const every = Math.ceil(n / 32);
  const around = m?.around ?? [];
  const dent = around.map((c, i) => {
    const a = angle(i, around.length, n);
    const r = HUB - 6 - (closed > 0 ? c / closed : 0) * DENT;
    return `${(MIDDLE + r * Math.sin(a)).toFixed(1)},${(MIDDLE - r * Math.cos(a)).toFixed(1)}`;
  });
  const shown = Math.min(at, t.moments.length);
  const said = m
    ? tr("{way}: after pull {pull} the lowest bolt is {lowest} with {low} kN, the highest {highest} with {high} kN.", {
        way: words,
        pull: shown,
        lowest: m.lowest,
        low: kilonewtons(m.loads[m.lowest - 1]!),
        highest: m.highest,
        high: kilonewtons(m.loads[m.highest - 1]!),
      })
    : tr("{way}: no bolt is pulled yet.", { way: words });
  return (
    <svg
      viewBox={`${EDGE} ${EDGE} ${SIZE - 2 * EDGE} ${SIZE - 2 * EDGE}`}
      className={classes.ring}
      role="img"
      aria-label={said}
      data-ring={shown}
    >
      <path d={annulus(out(t.low), out(t.high))} fillRule="evenodd" className={classes.band} />
      <circle cx={MIDDLE} cy={MIDDLE} r={out(load)} className={classes.wanted} />
      {Array.from({ length: n }, (_, i) => {
        const f = m?.loads[i] ?? 0;
        const standing = m?.standing[i] ?? "coming";
        const now = m?.bolts.includes(i + 1);
        const degrees = (360 / n) * (i + 0.5);
        return (
          <g key={i} transform={`rotate(${degrees} ${MIDDLE} ${MIDDLE})`} data-bolt={i + 1} data-standing={standing}>
            <rect x={MIDDLE - width / 2} y={MIDDLE - out(f)} width={width} height={out(f) - HUB} className={classes.bar} />
            {standing === "high" && <path d={`M${MIDDLE - 6} ${MIDDLE - out(f) - 4}h12l-6 -9z`} className={classes.bar} />}
            {standing === "low" && <path d={`M${MIDDLE - 6} ${MIDDLE - out(f) - 13}h12l-6 9z`} className={classes.bar} />}
            {now && <circle cx={MIDDLE} cy={MIDDLE - NUMBERS} r="13" className={classes.now} />}
            {(i % every === 0 || now) && (
              <text
                x={MIDDLE}
                y={MIDDLE - NUMBERS}
                transform={`rotate(${-degrees} ${MIDDLE} ${MIDDLE - NUMBERS})`}
                className={now ? classes.numberNow : classes.number}
              >
                {i + 1}
              </text>
            )}
          </g>
        );
      })}
      <circle cx={MIDDLE} cy={MIDDLE} r={HUB - 2} className={classes.hub} />
      {dent.length > 0 && <polygon points={dent.join(" ")} className={classes.closure} />}
      <text x={MIDDLE} y={MIDDLE - 8} className={classes.after}>
        {tr("after pull")}
      </text>
      <text x={MIDDLE} y={MIDDLE + 15} className={classes.pull}>
        {shown}
      </text>
      <title>{m ? tr("It has closed by up to {most} mm.", { most: millimetres(Math.max(...around)) }) : said}</title>
    </svg>
  );
}

/** Bolt 1 is half a bolt right of the top; places begin at it. */
const angle = (i: number, of: number, n: number) => 2 * Math.PI * (i / of + 0.5 / n);

const annulus = (inner: number, outer: number) => `${circle(outer)} ${circle(inner)}`;
const circle = (r: number) => `M${MIDDLE - r} ${MIDDLE}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
