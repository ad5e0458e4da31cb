import { useState } from "react";
import type { DrillTask } from "../../api/types";
import { useKeys } from "../../app/keys";
import { Trace } from "../../drawing/Trace";
import { millimetres, number } from "../../ui/format";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";

/** Something in which one thing is wrong, or nothing: it is touched. */
export function WrongHere({ task: w, judged, onAnswer }: TaskProps<NonNullable<DrillTask["wrong"]>>) {
  const [chosen, setChosen] = useState<number>();
  const choose = (i: number) => {
    if (chosen !== undefined) return;
    setChosen(i);
    onAnswer({ value: i });
  };
  useKeys(judged ? {} : Object.fromEntries(w.options.map((_, i) => [String(i + 1), () => choose(i)])));
  const picture = {
    "a trace": () => (
      <Trace
        points={w.trace ?? []}
        unit={w.unit ?? ""}
        target={{ value: w.target ?? 0, low: w.low ?? 0, high: w.high ?? 0 }}
        words={tr("The trace of a pull: torque over angle")}
      />
    ),
    "a gap set": () => <Gaps mm={w.gaps ?? []} />,
    "a kit": () => <Head size={w.size ?? 0} torque={w.target ?? 0} unit={w.unit ?? ""} />,
    "a pass": () => <Numbers bolts={w.bolts ?? 0} />,
  }[w.about]();
  return (
    <>
      <h2>{tr("What is wrong here?")}</h2>
      <p className={classes.says}>{told(w.says)}</p>
      <div className={classes.side} data-about={w.about}>
        <div className={classes.faceOf}>{picture}</div>
        <ol className={classes.options} data-many={w.options.length > 6 || undefined}>
          {w.options.map((o, i) => (
            <li key={i}>
              <button
                type="button"
                onClick={() => choose(i)}
                disabled={judged !== undefined}
                data-option={i}
                data-right={judged?.right === i || undefined}
                data-wrong={(judged && !judged.holds && chosen === i) || undefined}
              >
                <kbd>{i + 1}</kbd> {judged?.right === i ? "✓ " : judged && chosen === i && !judged.holds ? "✗ " : ""}
                {told(o)}
              </button>
            </li>
          ))}
        </ol>
      </div>
    </>
  );
}

/** Gaps at the quarters of a flange, seen along its axis. */
function Gaps({ mm }: { mm: number[] }) {
  const at = [
    [150, 38],
    [278, 150],
    [150, 262],
    [22, 150],
  ];
  return (
    <svg
      viewBox="-30 0 360 300"
      role="img"
      aria-label={tr("Gaps from the top, clockwise: {gaps} mm", { gaps: mm.map((v) => millimetres(v)).join(", ") })}
    >
      <circle cx="150" cy="150" r="78" className={classes.metal} />
      <circle cx="150" cy="150" r="44" className={classes.metal} />
      {mm.map((v, i) => (
        <g key={i}>
          <line
            x1={150 + 64 * Math.sign(at[i]![0]! - 150)}
            y1={150 + 64 * Math.sign(at[i]![1]! - 150)}
            x2={150 + 84 * Math.sign(at[i]![0]! - 150)}
            y2={150 + 84 * Math.sign(at[i]![1]! - 150)}
            className={classes.tick}
          />
          <text x={at[i]![0]} y={at[i]![1]} className={classes.gap}>
            {millimetres(v)}
          </text>
        </g>
      ))}
      <text x="150" y="150" className={classes.gapUnit}>
        mm
      </text>
    </svg>
  );
}

/** The head of a bolt that a kit is for: how wide it is, and what it is pulled to. */
function Head({ size, torque, unit }: { size: number; torque: number; unit: string }) {
  const corner = (i: number) => `${150 + 100 * Math.cos((Math.PI / 3) * i)},${140 + 100 * Math.sin((Math.PI / 3) * i)}`;
  return (
    <svg viewBox="0 0 300 300" aria-hidden>
      <polygon points={[0, 1, 2, 3, 4, 5].map(corner).join(" ")} className={classes.metal} />
      <circle cx="150" cy="140" r="80" className={classes.metal} />
      <text x="150" y="140" className={classes.gap}>
        {number(torque)} {unit}
      </text>
      <path d="M63 258h174M63 250v16M237 250v16" className={classes.tick} />
      <text x="150" y="284" className={classes.gap}>
        {number(size)} mm
      </text>
    </svg>
  );
}

/** Where the bolts of a ring lie. */
function Numbers({ bolts }: { bolts: number }) {
  return (
    <svg viewBox="0 0 300 300" aria-hidden>
      <circle cx="150" cy="150" r="104" className={classes.circle} />
      {Array.from({ length: bolts }, (_, i) => {
        const a = 2 * Math.PI * ((i + 0.5) / bolts);
        return (
          <g key={i} className={classes.bolt}>
            <circle cx={150 + 104 * Math.sin(a)} cy={150 - 104 * Math.cos(a)} r="24" />
            <text x={150 + 104 * Math.sin(a)} y={150 - 104 * Math.cos(a)} fontSize="20">
              {i + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
