import type { ReactNode } from "react";
import type { BenchOutcome, BenchWay } from "../api/types";
import { told, tr } from "../words/words";
import classes from "./bench.module.css";
import { load, minutes, pulls, restsOn, same, share, spread, stagesOf } from "./words";

interface OutcomesProps {
  outcomes: BenchOutcome[];
  /** One that is marked, and how: the planned one, unless that is said otherwise. */
  planned?: BenchWay;
  marked?: string;
  act?: (o: BenchOutcome, i: number) => ReactNode;
}

/** What ways come to, a row each: the middle, and below it the range. */
export function Outcomes({ outcomes, planned, marked = tr("(planned)"), act }: OutcomesProps) {
  return (
    <table className={classes.outcomes}>
      <thead>
        <tr>
          <th scope="col">{tr("way")}</th>
          <th scope="col">{tr("pulls")}</th>
          <th scope="col">{tr("about, min")}</th>
          <th scope="col">{tr("lowest bolt, kN")}</th>
          <th scope="col">{tr("spread, ± %")}</th>
          <th scope="col">{tr("seats, % of joints")}</th>
          <th scope="col">{tr("crushes, %")}</th>
          <th scope="col">{tr("rounds")}</th>
          {act && <th aria-label={tr("take it")} />}
        </tr>
      </thead>
      <tbody>
        {outcomes.map((o, i) => (
          <tr key={i} data-outcome={i + 1}>
            <th scope="row">
              {stagesOf(o.way)} {same(o.way, planned) && <span className="soft">{marked}</span>}
              <span className="fine">{[...o.remarks.map((r) => told(r)), restsOn(o.seats)].join(" ")}</span>
            </th>
            <Cell name={tr("pulls")} {...pulls(o.pulls)} />
            <Cell name={tr("about, min")} {...minutes(o.minutes)} />
            <Cell name={tr("lowest bolt, kN")} {...load(o.lowest)} />
            <Cell name={tr("spread, ± %")} {...spread(o.spread)} />
            <Cell name={tr("seats, % of joints")} {...share(o.seats)} kind={o.seats?.found} />
            <Cell name={tr("crushes, %")} {...share(o.crushed)} kind={o.crushed?.found} />
            <Cell name={tr("rounds")} {...pulls(o.rounds)} />
            {act && <td>{act(o, i)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface CellProps {
  name: string;
  middle: string;
  range: string;
  kind?: string;
}

function Cell({ name, middle, range, kind }: CellProps) {
  return (
    <td data-name={name} data-kind={kind}>
      <b className="mono">{middle}</b>
      {range && <span className="fine mono">{range}</span>}
    </td>
  );
}
