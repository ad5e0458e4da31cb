import { Button, Stack } from "@mantine/core";
import { useEffect, useState } from "react";
import type { BenchMade, BenchReplayed } from "../api/types";
import { kilonewtons, number, percent } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { told, tr } from "../words/words";
import classes from "./bench.module.css";
import { Ring } from "./Ring";
import { Key, Moment } from "./Rings";
import { csvOf, save } from "./save";
import { Scrub, usePlay } from "./Scrub";
import type { Answered, Trier } from "./trier";
import { load, share } from "./words";

const RUNS = 1000;

/** A signed run, put through the model: its own pulls, on the middle joint and on many. */
export function Replay({ trier, made }: { trier: Trier; made: BenchMade }) {
  const [answer, setAnswer] = useState<Answered<BenchReplayed>>();
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let here = true;
    void trier.ask<BenchReplayed>("replay", { made, runs: RUNS, seed: 1 }).then((a) => here && setAnswer(a));
    return () => {
      here = false;
    };
  }, [trier, made, turn]);
  if (answer?.problem) return <Refusal problem={answer.problem} />;
  if (answer?.failed || answer?.stopped)
    return (
      <Panel kind="stop" title={tr("The model has stopped")}>
        <Button onClick={() => setTurn((n) => n + 1)}>{tr("Begin it anew")}</Button>
      </Panel>
    );
  if (!answer?.is) return <p className="soft">{tr("Its pulls are put through the model.")}</p>;
  return <Replayed made={made} is={answer.is} />;
}

function Replayed({ made, is }: { made: BenchMade; is: BenchReplayed }) {
  const { at, playing, play, to } = usePlay(is.tried.moments.length);
  return (
    <div className={classes.replay} data-replay>
      <section className={classes.card} data-way="made">
        <header>
          <div>
            <h2>{tr("As it was made, by plan {revision}", { revision: made.revision })}</h2>
            <p className="soft">{tr("{count} pulls of its record, on the middle joint", { count: made.pulls.length })}</p>
          </div>
        </header>
        <Ring
          picture={is.tried}
          load={made.subject.load}
          at={at}
          scale={is.tried.scale}
          closed={is.tried.closed}
          words={tr("As it was made")}
        />
        <Moment picture={is.tried} at={at} />
        <Scrub at={at} last={is.tried.moments.length} playing={playing} onPlay={play} onAt={to} />
        <Key />
      </section>
      <Stack gap={12}>
        <Panel title={tr("What the model makes of it")} className={classes.compared}>
          {is.remarks.map((r) => (
            <p key={r}>{told(r)}</p>
          ))}
          <Gone is={is} />
        </Panel>
        <Panel title={tr("What each bolt likely carries, kN")} className={classes.compared}>
          <Bolts is={is} />
        </Panel>
        <Fit is={is} />
        <p className="fine">
          {tr("A model of a joint is not that joint: it says where to look, and nothing of a record that is signed.")}{" "}
          <button type="button" className="link" onClick={() => save("replay.csv", "text/csv", csvOf(rows(is)))}>
            {tr("Save the numbers (CSV)")}
          </button>
        </p>
      </Stack>
    </div>
  );
}

/** What each check round brought, and what one more would have. */
function Gone({ is }: { is: BenchReplayed }) {
  return (
    <table className={classes.outcomes} data-gone>
      <thead>
        <tr>
          <th scope="col">{tr("after")}</th>
          <th scope="col">{tr("nuts that moved")}</th>
          <th scope="col">{tr("the model expects")}</th>
          <th scope="col">{tr("lowest bolt, kN")}</th>
          <th scope="col">{tr("seats, % of joints")}</th>
        </tr>
      </thead>
      <tbody>
        {is.rounds.map((g) => {
          const lowest = load(g.lowest);
          const seats = share(g.seats);
          return (
            <tr key={g.round} data-made={g.made}>
              <th scope="row">
                {g.round === 0 ? tr("the passes") : g.made ? tr("round {round}", { round: g.round }) : tr("one more round")}
              </th>
              <td data-name={tr("nuts that moved")}>
                {g.made && g.round > 0 ? tr("{moved} of {nuts}", { moved: g.moved, nuts: g.nuts }) : "–"}
              </td>
              <td data-name={tr("the model expects")}>{g.round > 0 ? number(Math.round(g.expected * 10) / 10) : "–"}</td>
              <td data-name={tr("lowest bolt, kN")}>
                <b className="mono">{lowest.middle}</b> <span className="fine mono">{lowest.range}</span>
              </td>
              <td data-name={tr("seats, % of joints")} data-kind={g.seats?.found}>
                <b className="mono">{seats.middle}</b> <span className="fine mono">{seats.range}</span>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Each bolt with its range; one that is low in some joints says in how many. */
function Bolts({ is }: { is: BenchReplayed }) {
  return (
    <ol className={classes.bolts}>
      {is.bolts.map((b, i) => (
        <li key={i} data-low={b.marked || undefined}>
          <b>{i + 1}</b> <span className="mono">{kilonewtons(b.load.middle)}</span>
          <span className="fine mono">{tr("{low} to {high}", { low: kilonewtons(b.load.low), high: kilonewtons(b.load.high) })}</span>
          {b.low >= 0.005 && <span className="fine">{tr("low in {share} %", { share: percent(Math.round(b.low * 100) / 100) })}</span>}
        </li>
      ))}
    </ol>
  );
}

/** What its readings say of the gasket and the friction. */
function Fit({ is: { fitted: f, notFitted } }: { is: BenchReplayed }) {
  return (
    <Panel title={tr("What its readings say")} className={classes.compared}>
      {notFitted && (
        <p>
          {told(notFitted.detail)} <span className="soft">{told(notFitted.way)}</span>
        </p>
      )}
      {f && (
        <div data-fitted>
          <p>
            {tr("Stiffness of the gasket: {middle} N/mm², {low} to {high}, by {count} readings.", {
              middle: number(Math.round(f.gasket.middle)),
              low: number(Math.round(f.gasket.low)),
              high: number(Math.round(f.gasket.high)),
              count: f.readings,
            })}
          </p>
          <p>
            {tr("Load for its torque: {middle} % of what the plan counts with, {low} to {high} %.", {
              middle: percent(f.friction.middle),
              low: percent(f.friction.low),
              high: percent(f.friction.high),
            })}
          </p>
          <p className="fine">
            {f.says
              ? tr("The readings lie {misfit} times their own uncertainty from the model.", {
                  misfit: number(Math.round(f.misfit * 10) / 10),
                })
              : tr("They say little more of the gasket than was supposed.")}
          </p>
        </div>
      )}
    </Panel>
  );
}

/** Every bolt and every round, as numbers. */
function rows(is: BenchReplayed): (string | number)[][] {
  return [
    ["what", "number", "low N", "likely N", "high N", "low in a share of joints", "nuts moved", "model expects"],
    ...is.bolts.map((b, i) => ["bolt", i + 1, b.load.low, b.load.middle, b.load.high, b.low, "", ""]),
    ...is.rounds.map((g) => [
      g.made ? "round" : "one more round",
      g.round,
      g.lowest.low,
      g.lowest.middle,
      g.lowest.high,
      "",
      g.moved,
      g.expected,
    ]),
  ];
}
