import { Button, Group as Row, NumberInput, Stack } from "@mantine/core";
import { useState } from "react";
import type { BenchFound, BenchSubject, BenchTried, BenchWay } from "../api/types";
import { kilonewtons, number, percent } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { told, tr } from "../words/words";
import classes from "./bench.module.css";
import { Outcomes } from "./Outcomes";
import { csvOf, save } from "./save";
import type { Answered, Trier } from "./trier";

interface BetterProps {
  trier: Trier;
  subject: BenchSubject;
  order: string;
  onCompare: (w: BenchWay) => void;
}

/** Ways with the fewest pulls to an even ring, and a single pass; each with what it costs in robustness. */
export function Better({ trier, subject, order, onCompare }: BetterProps) {
  const [even, setEven] = useState(10);
  const [rounds, setRounds] = useState(5);
  const [busy, setBusy] = useState(false);
  const [answer, setAnswer] = useState<Answered<BenchFound>>();
  async function find() {
    setBusy(true);
    setAnswer(await trier.ask<BenchFound>("better", { subject, even: 1 + even / 100, rounds, runs: 1000, seed: 1, order }));
    setBusy(false);
  }
  const found = answer?.is;
  return (
    <Panel>
      <Row gap={16} align="end">
        <NumberInput
          size="md"
          w={250}
          label={tr("Highest above lowest bolt")}
          value={even}
          onChange={(v) => setEven(Number(v))}
          suffix=" %"
        />
        <NumberInput
          size="md"
          w={190}
          label={tr("Check rounds at most")}
          value={rounds}
          allowDecimal={false}
          onChange={(v) => setRounds(Number(v))}
        />
        {busy ? (
          <Button variant="default" onClick={() => trier.stop()}>
            {tr("Stop")}
          </Button>
        ) : (
          <Button onClick={() => void find()} data-find>
            {tr("Find a better way")}
          </Button>
        )}
      </Row>
      <Stack gap={14} mt={14}>
        {answer?.problem && <Refusal problem={answer.problem} />}
        {answer?.failed && <p>{tr("The model has stopped. Ask again; it is begun anew.")}</p>}
        {found?.none && (
          <p>
            {told(found.none.detail)} <span className="soft">{told(found.none.way)}</span>
          </p>
        )}
        {found && found.ways.length > 0 && (
          <>
            <h3>{tr("Fewest pulls until the middle joint is that even")}</h3>
            <Outcomes
              outcomes={found.ways.map((w) => w.outcome)}
              act={(o, i) => (
                <Stack gap={4}>
                  <span>
                    {tr("{count} pulls, then {more} % from lowest to highest", {
                      count: found.ways[i]!.until ?? 0,
                      more: percent((found.ways[i]!.ratio ?? 1) - 1),
                    })}
                  </span>
                  <Button variant="default" onClick={() => onCompare(o.way)} data-compare={i + 1}>
                    {tr("Compare it above")}
                  </Button>
                </Stack>
              )}
            />
          </>
        )}
        {found?.noSingle && (
          <p>
            {tr("A single pass:")} {told(found.noSingle.detail)} <span className="soft">{told(found.noSingle.way)}</span>
          </p>
        )}
        {found?.single && <Single single={found.single} />}
      </Stack>
    </Panel>
  );
}

/** One pass with a load for each bolt: the fewest pulls there are, and what they rest on. */
function Single({ single }: { single: BenchTried }) {
  const targets = single.targets ?? [];
  return (
    <>
      <h3>{tr("One single pass, each bolt to a load of its own")}</h3>
      <p className="soft">
        {tr(
          "It ends even on the middle joint alone, and no plan carries it: each bolt would need a torque of its own. What it comes to where the gasket or the friction is another stands beside it.",
        )}
      </p>
      <Outcomes outcomes={[single.outcome]} />
      <ol className={classes.targets}>
        {targets.map((t) => (
          <li key={t.bolt}>
            <b>{t.bolt}</b> <span className="mono">{kilonewtons(t.load)}</span>
            {" kN"} <span className="fine mono">{tr("{share} %", { share: number(Math.round(t.share)) })}</span>
          </li>
        ))}
      </ol>
      <Button
        variant="default"
        style={{ alignSelf: "start" }}
        onClick={() =>
          save(
            "single-pass.csv",
            "text/csv",
            csvOf([["turn", "bolt", "load N", "share %"], ...targets.map((t, i) => [i + 1, t.bolt, t.load, t.share])]),
          )
        }
      >
        {tr("Save the numbers (CSV)")}
      </Button>
    </>
  );
}
