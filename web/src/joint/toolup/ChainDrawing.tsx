import type { Way } from "../../api/types";
import { filled, hexagon } from "../../drawing/geometry";
import { number, torque } from "../../ui/format";
import classes from "./toolup.module.css";

/** The tools in line, with the torque where each meets the next. */
export function ChainDrawing({ way, thread }: { way: Way; thread: string }) {
  const multiplier = way.links.find((l) => l.kind === "multiplier");
  const wrench = way.links[0]!;
  const last = way.stages.at(-1)!;
  const nut = multiplier ? 930 : 640;
  const width = nut + 110;
  return (
    <svg
      viewBox={`0 0 ${width} 210`}
      className={classes.chain}
      style={{ maxWidth: width }}
      role="img"
      aria-label={`${wrench.tag} set to ${number(last.setting.value)} ${last.setting.unit} gives ${torque(last.lands)} N·m at the nut`}
    >
      <g className={classes.steel}>
        <rect x="24" y="96" width="150" height="16" rx="8" className={classes.dark} />
        <rect x="174" y="90" width="62" height="28" rx="2" />
        <rect x="236" y="98" width="60" height="12" className={classes.light} />
        <circle cx="312" cy="104" r="21" />
      </g>
      <text x="170" y="168" className={classes.name}>
        Wrench {wrench.tag}
      </text>
      <text x="170" y="190" className={classes.note}>
        {wrench.note}
      </text>
      <Interface x={370} value={number(last.setting.value)} unit={last.setting.unit} hot />
      {multiplier && (
        <>
          <g className={classes.steel}>
            <rect x="452" y="66" width="150" height="76" rx="8" className={classes.dark} />
            <path d="M482 66 V38 H602 V50 H496 V66 Z" className={classes.arm} />
            <circle cx="527" cy="104" r="28" fill="none" stroke="currentColor" strokeWidth="6" />
            <circle cx="527" cy="104" r="9" />
          </g>
          <text x="527" y="168" className={classes.name}>
            Multiplier {multiplier.tag}
          </text>
          <text x="527" y="190" className={classes.note}>
            {multiplier.note}
          </text>
          <Interface x={670} value={torque(last.lands)} unit="N·m" />
        </>
      )}
      <g className={classes.steel} transform={`translate(${nut - 180} 0)`}>
        <rect x="0" y="80" width="30" height="48" rx="3" className={classes.light} />
        <rect x="30" y="70" width="46" height="68" rx="5" className={classes.dark} />
      </g>
      <text x={nut - 142} y="168" className={classes.name}>
        Socket
      </text>
      <text x={nut - 142} y="190" className={classes.note}>
        of the nut’s size
      </text>
      <g transform={`translate(${nut + 10} 104)`}>
        <polygon points={hexagon(52)} className={classes.glass} />
        <polygon points={filled(52, 1)} className={classes.held} />
        <polygon points={hexagon(52)} className={classes.rim} />
        <text dy="0.1em" className={classes.nutText}>
          {torque(last.lands)}
        </text>
        <text dy="1.5em" className={classes.nutUnit}>
          N·m
        </text>
      </g>
      <text x={nut + 10} y="190" className={classes.note}>
        {thread}
        {way.stages.length > 1 && `, stage ${last.stage}`}
      </text>
    </svg>
  );
}

function Interface({ x, value, unit, hot }: { x: number; value: string; unit: string; hot?: boolean }) {
  return (
    <g className={hot ? classes.hot : classes.cool}>
      <text x={x} y="24" className={classes.at}>
        {value}
      </text>
      <text x={x} y="46" className={classes.note}>
        {unit}
      </text>
      <line x1={x} x2={x} y1="58" y2="146" strokeDasharray="3 4" strokeWidth="2" />
    </g>
  );
}
