import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { CribTool } from "../api/types";
import { number } from "../ui/format";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

interface BoardProps {
  tools: CribTool[];
  /** N·m, where the scale begins and ends. */
  from: number;
  to: number;
  open?: string;
}

/** Every tool by its reach, on one scale of torque: filled where it is used, dashed where it can be set and does not hold its accuracy. */
export function Board({ tools, from, to, open }: BoardProps) {
  const low = Math.floor(Math.log10(from) + 1e-9);
  const high = Math.max(low + 1, Math.ceil(Math.log10(to) - 1e-9));
  const place = (v: number) => (100 * (Math.log10(v) - low)) / (high - low);
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest" });
  }, [open]);
  const decades = Array.from({ length: high - low + 1 }, (_, i) => 10 ** (low + i));
  return (
    <div className={classes.board} data-scrolls ref={list}>
      <div className={classes.axis} aria-hidden="true">
        <span className={classes.axisName}>N·m</span>
        <div className={classes.scale}>
          {decades.map((d) => (
            <span key={d} style={{ left: `${place(d)}%` }} className="mono">
              {number(d)}
            </span>
          ))}
        </div>
      </div>
      {tools.length === 0 && <p className="soft">{tr("No tool is like that.")}</p>}
      <ul>
        {tools.map((t) => (
          <li key={t.tag}>
            <Link
              to={`/crib/${encodeURIComponent(t.tag)}`}
              className={classes.row}
              data-standing={t.standing}
              data-tool={t.tag}
              aria-current={t.tag === open || undefined}
            >
              <span className={classes.who}>
                <b className="mono">{t.tag}</b>
                <span className="fine">{told(t.text)}</span>
              </span>
              <span className={classes.scale}>
                {decades.map((d) => (
                  <i key={d} className={classes.decade} style={{ left: `${place(d)}%` }} />
                ))}
                {t.torque ? <Reach tool={t} place={place} /> : <span className={classes.only}>{told(t.reach)}</span>}
                {!t.torque && <State tool={t} at={100} />}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Reach({ tool: t, place }: { tool: CribTool; place: (v: number) => number }) {
  const left = place(t.low);
  const right = Math.max(place(t.high), left + 0.7);
  return (
    <>
      {t.rated < t.low && <span className={classes.badly} style={{ left: `${place(t.rated)}%`, width: `${left - place(t.rated)}%` }} />}
      <span className={classes.reach} style={{ left: `${left}%`, width: `${right - left}%` }} title={told(t.reach)} />
      <span className="visually-hidden">{told(t.reach)}</span>
      <State tool={t} at={right} before={place(Math.min(t.rated, t.low))} />
    </>
  );
}

/** Where it is and when it is due, beside its bar: behind it, or before it where there is no room. */
function State({ tool: t, at, before = 0 }: { tool: CribTool; at: number; before?: number }) {
  const side = at > 62 ? { right: `${100 - before}%`, paddingRight: 8 } : { left: `${at}%`, paddingLeft: 8 };
  return (
    <span className={classes.words} style={at === 100 ? { right: 0 } : side}>
      {stateWords(t)}
    </span>
  );
}

/** Where a tool stands, short. */
export function stateWords(t: CribTool) {
  switch (t.standing) {
    case "held":
      return tr("held back");
    case "scrapped":
      return tr("scrapped");
    case "over":
      return told(t.due);
  }
  if (t.lent)
    return t.lentJoint ? tr("at {lentJoint}, {lent}", { lentJoint: t.lentJoint, lent: t.lent }) : tr("with {lent}", { lent: t.lent });
  return t.due ? tr("in, {due}", { due: told(t.due) }) : tr("in the crib");
}
