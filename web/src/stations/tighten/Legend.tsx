import type { Mark } from "../../api/types";
import { Bolt } from "../../drawing/Bolt";
import classes from "./tighten.module.css";

interface Sign {
  text: string;
  level: number;
  current: boolean;
  mark?: Mark;
}

/** What the signs on the bolts mean. */
export function Legend({ checking }: { checking: boolean }) {
  const signs: Sign[] = checking
    ? [
        { text: "did not move", level: 1, current: true, mark: "still" },
        { text: "moved", level: 1, current: true, mark: "moved" },
        { text: "trouble", level: 1, current: true, mark: "trouble" },
      ]
    : [
        { text: "earlier pass", level: 0.3, current: false },
        { text: "held in this pass", level: 0.6, current: true },
        { text: "trouble", level: 0.3, current: false, mark: "trouble" },
      ];
  return (
    <ul className={classes.legend}>
      {signs.map((s) => (
        <li key={s.text}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={12} level={s.level} current={s.current} mark={s.mark} />
          </svg>
          {s.text}
        </li>
      ))}
    </ul>
  );
}
