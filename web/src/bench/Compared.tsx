import { Button, Group as Row } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { http, problemOf, take } from "../api/client";
import { useMay } from "../api/queries";
import type { BenchTried, BenchTry, BenchWay, Joint, Problem } from "../api/types";
import { unreachable } from "../api/unreachable";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { tr } from "../words/words";
import type { At } from "./Bench";
import classes from "./bench.module.css";
import { Outcomes } from "./Outcomes";
import { csvOf, save } from "./save";

interface ComparedProps {
  tried: BenchTried[];
  of: BenchTry;
  planned?: BenchWay;
  at?: At;
  stale: boolean;
}

/** The table that decides: what each way comes to on many joints, and the way that is taken. */
export function Compared({ tried, of, planned, at, stale }: ComparedProps) {
  const may = useMay("fitter", "engineer", "planner");
  const queries = useQueryClient();
  const [taken, setTaken] = useState<number>();
  const [taking, setTaking] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const [version, setVersion] = useState(at?.version ?? 0);
  async function takes(way: number) {
    if (!at) return;
    setTaking(true);
    setProblem(undefined);
    try {
      const answer = await take(
        http.PUT("/api/joints/{joint}/bench/taken", {
          params: { path: { joint: at.joint } },
          body: { version, group: at.group, try: of, way },
        }),
      );
      queries.setQueryData<Joint>(["joint", at.joint], answer);
      setVersion(answer.draft.version);
      setTaken(way);
    } catch (e) {
      setProblem(problemOf(e) ?? unreachable());
    } finally {
      setTaking(false);
    }
  }
  return (
    <Panel className={classes.compared}>
      <Outcomes
        outcomes={tried.map((t) => t.outcome)}
        planned={planned}
        act={
          at && may
            ? (o, i) =>
                o.fits ? (
                  <Button
                    variant={taken === i ? "filled" : "default"}
                    disabled={stale || taking}
                    onClick={() => void takes(i)}
                    data-take={i + 1}
                    fullWidth
                  >
                    {taken === i ? tr("taken") : tr("Take this way")}
                  </Button>
                ) : (
                  <span className="fine">{tr("A plan cannot carry it.")}</span>
                )
            : undefined
        }
      />
      {problem && <Refusal problem={problem} />}
      {taken !== undefined && at && (
        <p className={classes.taken} role="status">
          {tr("Its stages and order are in the draft, and the comparison is kept with it.")}{" "}
          <Link to={`/joint/${at.joint}/1`} className="link">
            {tr("To the plan")}
          </Link>
        </p>
      )}
      <Row justify="space-between" gap={12} mt={8} align="end">
        <p className="fine">
          {tr(
            "A help, and no permission: a model knows no dirt, no burr and no bent flange. The maker’s instruction, the site’s rules and a qualified person decide how it is made.",
          )}
        </p>
        <Button variant="default" onClick={() => save("ways.csv", "text/csv", csvOf(rows(tried)))} data-save="csv">
          {tr("Save the numbers (CSV)")}
        </Button>
      </Row>
    </Panel>
  );
}

/** The table as rows of a file: numbers as they are, with their units in the headings. */
function rows(tried: BenchTried[]): (string | number)[][] {
  const likely = (name: string, unit: string) => [`${name} low ${unit}`, `${name} likely ${unit}`, `${name} high ${unit}`];
  return [
    [
      "way",
      "order",
      "start",
      "tools",
      ...likely("pulls", ""),
      ...likely("time", "min"),
      ...likely("lowest bolt", "N"),
      ...likely("spread", "fraction"),
      ...likely("seats", "fraction"),
      ...likely("crushes", "fraction"),
      ...likely("rounds", ""),
    ].map((h) => h.trim()),
    ...tried.map(({ outcome: o }) => [
      o.words,
      o.way.order,
      o.way.start,
      o.way.tools,
      ...[o.pulls, o.minutes, o.lowest, o.spread].flatMap((l) => [l.low, l.middle, l.high]),
      ...[o.seats, o.crushed].flatMap<string | number>((s) => (s ? [s.low, s.all, s.high] : ["", "", ""])),
      o.rounds.low,
      o.rounds.middle,
      o.rounds.high,
    ]),
  ];
}
