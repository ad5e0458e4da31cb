import { useEffect, useRef, useState } from "react";
import type { DrillTask } from "../../api/types";
import { useKeys } from "../../app/keys";
import { signal } from "../../app/signal";
import { Act } from "../../ui/Act";
import { tr } from "../../words/words";
import classes from "./drills.module.css";
import type { TaskProps } from "./Go";

/** A wrench that is pulled until it clicks. The hand begins and stops by one key, or the large button. */
export function Click({ task: c, judged, onAnswer }: TaskProps<NonNullable<DrillTask["click"]>>) {
  const began = useRef<number>(undefined);
  const [pulling, setPulling] = useState(false);
  const [clicked, setClicked] = useState(false);
  const [stopped, setStopped] = useState(false);
  useEffect(() => {
    if (!pulling) return;
    const click = setTimeout(() => {
      setClicked(true);
      signal("held");
    }, c.click * 1000);
    return () => clearTimeout(click);
  }, [pulling, c.click]);
  const act = () => {
    if (stopped) return;
    if (!pulling) {
      began.current = performance.now();
      setPulling(true);
      return;
    }
    onAnswer({ value: (performance.now() - began.current!) / 1000 });
    setPulling(false);
    setStopped(true);
  };
  useKeys(judged ? {} : { " ": act });
  return (
    <>
      <h2>{tr("Pull until it clicks. Then stop.")}</h2>
      <p className="soft">{tr("The click is seen, and heard where this device gives signals.")}</p>
      <svg viewBox="-120 -60 240 130" className={classes.wrench} aria-hidden data-clicked={clicked || undefined}>
        <g
          className={classes.lever}
          style={{ transform: pulling || stopped ? `rotate(${c.pace * c.click}deg)` : undefined, transitionDuration: `${c.click}s` }}
        >
          <rect x="-10" y="-7" width="118" height="14" rx="7" />
          <circle r="22" />
        </g>
        {clicked && <path d="M-40 -34l-14 -14M0 -44v-14M40 -34l14 -14" className={classes.spark} />}
      </svg>
      <p className={classes.large} role="status">
        {clicked ? tr("Click!") : pulling ? tr("pulling") : " "}
      </p>
      {!judged && (
        <Act act={pulling ? tr("Stop") : tr("Pull")} hint={tr("space")} onClick={act} data-act="main" kind={pulling ? "stop" : "now"} />
      )}
    </>
  );
}
