import type { DrillTask } from "../../api/types";
import { capital } from "../../joint/words";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";
import { Typed } from "./Typed";

type Next = NonNullable<DrillTask["next"]>;

const SIZE = 440;
const MIDDLE = SIZE / 2;
const CIRCLE = 192;

/** A ring as it was left: what was pulled is marked. The next one is touched, or typed. */
export function NextBolt({ task: n, judged, onAnswer }: TaskProps<Next>) {
  const r = Math.min(22, (Math.PI * CIRCLE) / n.bolts - 2);
  return (
    <>
      <h2>{tr("{order}, from bolt {start}: which bolt is next?", { order: capital(told(n.order)), start: n.start })}</h2>
      <p className="soft">
        {tr("Stage {stage} of {stages}, {share} %. Filled bolts were pulled in it before the phone rang.", {
          stage: n.stage,
          stages: n.stages,
          share: n.share,
        })}
      </p>
      <div className={classes.side}>
        <div className={classes.faceOf}>
          <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className={classes.ring} role="img" aria-label={ringWords(n)}>
            <circle cx={MIDDLE} cy={MIDDLE} r={CIRCLE} className={classes.circle} />
            {Array.from({ length: n.bolts }, (_, i) => {
              const a = 2 * Math.PI * ((i + 0.5) / n.bolts);
              const [x, y] = [MIDDLE + CIRCLE * Math.sin(a), MIDDLE - CIRCLE * Math.cos(a)];
              const right = judged?.right === i + 1;
              return (
                <g
                  key={i}
                  onClick={() => onAnswer({ value: i + 1 })}
                  className={classes.bolt}
                  data-bolt={i + 1}
                  data-pulled={n.pulled.includes(i + 1) || undefined}
                  data-right={right || undefined}
                >
                  <circle cx={x} cy={y} r={r} />
                  <text x={x} y={y} fontSize={Math.min(18, r * 1.05)}>
                    {i + 1}
                  </text>
                </g>
              );
            })}
          </svg>
        </div>
        <Typed
          label={tr("Touch it, or type its number")}
          act={tr("That one")}
          judged={judged}
          onValue={(value) => onAnswer({ value })}
          whole
        />
      </div>
    </>
  );
}

const ringWords = (n: Next) => tr("A ring of {bolts}; pulled so far: {pulled}", { bolts: n.bolts, pulled: n.pulled.join(", ") });
