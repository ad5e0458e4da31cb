import { useState } from "react";
import type { Joint } from "../api/types";
import { useAlong, useAlongState } from "../app/context";
import { hourMinute } from "../ui/format";
import { amount } from "./amount";
import classes from "./along.module.css";
import { takeAll } from "./taking";
import { tr } from "../words/words";

/** Takes the joint onto this device, to be worked at without a network; once it is here, says since when. */
export function TakeAlong({ joint }: { joint: Joint }) {
  const along = useAlong();
  const { taken } = useAlongState();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const here = taken.find((t) => t.joint === joint.id);
  const take = async () => {
    setWrong("");
    setBusy(true);
    const why = await takeAll(along, [joint.id]);
    setBusy(false);
    setWrong(why && tr("Not taken: {why}.", { why }));
  };
  return (
    <button type="button" className={classes.take} onClick={() => void take()} disabled={busy} data-along={here ? "here" : "away"}>
      <svg viewBox="0 0 32 32" width="32" height="32" aria-hidden="true">
        <rect x="6" y="3" width="20" height="26" rx="3" fill={here ? "var(--held)" : "none"} stroke="currentColor" strokeWidth="2.4" />
        {here ? (
          <path d="M11 16 L15 20 L22 11" fill="none" stroke="var(--panel)" strokeWidth="3.2" />
        ) : (
          <path d="M16 8 V19 M11 15 L16 20 L21 15 M11 24 H21" fill="none" stroke="currentColor" strokeWidth="2.4" />
        )}
      </svg>
      <span role="status">
        {busy ? tr("Taking") : here ? tr("Here, {at}", { at: hourMinute(new Date(here.at)) }) : tr("Take along")}
        {here && <span className={classes.size}>{amount(here.bytes)}</span>}
        {wrong && <b className={classes.wrong}>{wrong}</b>}
      </span>
    </button>
  );
}
