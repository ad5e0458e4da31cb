import { useState } from "react";
import { useOffered } from "../api/queries";
import type { OfferedReading } from "../api/types";
import { number, readNumber, time } from "./format";
import classes from "./ui.module.css";
import { Say } from "../words/Say";
import { tr } from "../words/words";

/** Readings of instruments that were taken into fields, by the field's place. */
export type Sent = Record<number, { id: string; value: number }>;

/** What was taken from instruments into a form's fields: what was typed over since counts no more. */
export function useSent(typed: readonly string[]) {
  const [sent, setSent] = useState<Sent>({});
  const still = Object.entries(sent).filter(([at, s]) => readNumber(typed[Number(at)] ?? "") === s.value);
  return {
    ids: still.map(([, s]) => s.id),
    put: (at: number, r: OfferedReading) => setSent({ ...sent, [at]: { id: r.id, value: r.value } }),
    clear: () => setSent({}),
  };
}

interface OfferedProps {
  unit: string | undefined;
  /** Those that are in a field already. */
  used: readonly string[];
  onTake: (r: OfferedReading) => void;
}

/** What instruments sent lately that goes into the next field: touched, it is in it. */
export function Offered({ unit, used, onTake }: OfferedProps) {
  const { data } = useOffered(unit);
  const list = data?.readings.filter((r) => !used.includes(r.id)).slice(0, 3) ?? [];
  if (!data?.there) return null;
  return (
    <ul className={classes.offered} aria-label={tr("Sent by instruments")}>
      {list.map((r) => (
        <li key={r.id}>
          <button type="button" onClick={() => onTake(r)} data-offered={r.tool}>
            <Say
              of="Take {r} {tool}"
              with={{
                r: (
                  <b className="mono">
                    {number(r.value)} {r.unit}
                  </b>
                ),
                tool: (
                  <span className="soft">
                    {r.tool}
                    {", "}
                    {time(r.at)}
                  </span>
                ),
              }}
            />
          </button>
        </li>
      ))}
      {list.length === 0 && <li className="soft">{tr("An instrument is linked: measure, and what it sends is offered here.")}</li>}
    </ul>
  );
}
