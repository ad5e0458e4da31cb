import { lazy, Suspense, useRef } from "react";
import type { BenchRoundMoved } from "../api/types";
import { number, percent } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { told, tr } from "../words/words";
import classes from "./bench.module.css";
import { useMoved } from "./queries";
import { Saves } from "./Saves";

const Bars = lazy(() => import("./Bars"));

/** What moved in the check rounds of this site: whether a round pays, by kind of joint and lubricant. */
export function Moved() {
  const asked = useMoved();
  const box = useRef<HTMLDivElement>(null);
  if (asked.isError) return <Refusal error={asked.error} />;
  if (!asked.data) return null;
  const { rounds } = asked.data;
  const all = Math.max(0, ...rounds.map((r) => r.round));
  const kinds = [...new Map(rounds.map((r) => [key(r), r])).values()];
  const at = (k: BenchRoundMoved, round: number) => rounds.find((r) => key(r) === key(k) && r.round === round);
  const series = Array.from({ length: all }, (_, i) => tr("round {round}", { round: i + 1 }));
  return (
    <Panel title={tr("What moved here, in check rounds")} aside={<Saves name="moved" box={box} rows={() => rows(rounds)} />}>
      {kinds.length === 0 && <p>{tr("No check round is on this site’s record yet.")}</p>}
      {kinds.length > 0 && (
        <div ref={box}>
          <Suspense fallback={<p className="soft">{tr("The chart is coming.")}</p>}>
            <Bars
              data={kinds.map((k) => ({
                kind: told(k.kind),
                // A round that was not made has no bar: none is not nought.
                ...Object.fromEntries(
                  series.flatMap((name, i) => {
                    const r = at(k, i + 1);
                    return r ? [[name, Math.round((1000 * r.moved) / r.nuts) / 10]] : [];
                  }),
                ),
              }))}
              names={series}
            />
          </Suspense>
        </div>
      )}
      <table className={classes.outcomes} style={{ marginTop: 14 }} data-moved>
        <thead>
          <tr>
            <th scope="col">{tr("kind, lubricant")}</th>
            {series.map((s) => (
              <th scope="col" key={s}>
                {s}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {kinds.map((k) => (
            <tr key={key(k)}>
              <th scope="row">
                {told(k.kind)}
                <span className="fine">{told(k.lubricant)}</span>
              </th>
              {series.map((s, i) => {
                const r = at(k, i + 1);
                return (
                  <td key={s} data-name={s}>
                    <b className="mono">{r ? tr("{share} %", { share: percent(r.moved / r.nuts) }) : "–"}</b>
                    {r && (
                      <span className="fine">
                        {tr("{moved} of {nuts} nuts", { moved: number(r.moved), nuts: number(r.nuts) })}
                        {", "}
                        {tr("{count} joints", { count: r.joints })}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Panel>
  );
}

const key = (r: BenchRoundMoved) => `${r.kind}|${r.lubricant}`;

function rows(rounds: BenchRoundMoved[]): (string | number)[][] {
  return [
    ["kind", "lubricant", "round", "joints", "nuts", "moved"],
    ...rounds.map((r) => [r.kind, r.lubricant, r.round, r.joints, r.nuts, r.moved]),
  ];
}
