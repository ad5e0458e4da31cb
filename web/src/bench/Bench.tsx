import { Button, Group as Row, SegmentedControl } from "@mantine/core";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { BenchMade, BenchStart, BenchSubject, BenchTry, BenchWay } from "../api/types";
import { InBar } from "../app/Shell";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { told, tr } from "../words/words";
import { number } from "../ui/format";
import classes from "./bench.module.css";
import { Better } from "./Better";
import { Compared } from "./Compared";
import { Curves } from "./Curves";
import { Moved } from "./Moved";
import { Replay } from "./Replay";
import { Rests } from "./Rests";
import { Rings } from "./Rings";
import { useBenchJoint } from "./queries";
import type { Trier } from "./trier";
import { useTrial, useTrier } from "./useTrial";

/** The Bench: a joint, or one that nobody has, tried before anyone touches it. */
export function Bench() {
  const { joint } = useParams();
  const trier = useTrier();
  const asked = useBenchJoint(joint);
  const [group, setGroup] = useState<string>();
  const rings = asked.data?.rings ?? [];
  const ring = rings.find((r) => r.group === group) ?? rings.find((r) => !r.refused) ?? rings[0];
  useEffect(() => {
    document.title = tr("{tag} · Dynacor", { tag: asked.data?.tag ?? tr("Bench") });
  }, [asked.data?.tag]);
  if (joint && asked.isError) return <Refusal error={asked.error} />;
  if (joint && !asked.data) return null;
  return (
    <main className={classes.bench}>
      <h1 className="visually-hidden">{tr("Bench")}</h1>
      <InBar>
        <span className={classes.plate}>
          <b>{tr("Bench")}</b>{" "}
          {asked.data ? (
            <>
              <Link to={`/joint/${asked.data.joint}/1`} className="mono">
                {asked.data.tag}
              </Link>{" "}
              <span className={classes.plateMore}>
                {told(asked.data.title)}
                {" · "}
                {told(asked.data.about)}
              </span>
            </>
          ) : (
            <span className={classes.plateMore}>{tr("a made-up ring: nobody has it")}</span>
          )}
        </span>
      </InBar>
      {rings.filter((r) => !r.refused).length > 1 && (
        <SegmentedControl
          size="md"
          style={{ justifySelf: "start" }}
          value={ring?.group}
          onChange={setGroup}
          data={rings.filter((r) => !r.refused).map((r) => ({ value: r.group, label: told(r.group) }))}
        />
      )}
      {joint && !ring?.subject ? (
        <Panel kind="mind" title={tr("This joint cannot be tried yet")}>
          {rings.length === 0 && <p>{tr("It has no bolts of its own.")}</p>}
          {rings.map((r) => (
            <p key={r.group}>{told(r.refused)}</p>
          ))}
          <Row gap={12} mt={12}>
            <Button component={Link} to={`/joint/${joint}/1`}>
              {tr("Lay out")}
            </Button>
            <Button component={Link} to="/bench" variant="default">
              {tr("Try a made-up ring")}
            </Button>
          </Row>
        </Panel>
      ) : (
        <Begun
          key={`${joint}/${ring?.group}`}
          trier={trier}
          subject={ring?.subject}
          way={ring?.way}
          made={ring?.made}
          at={asked.data && ring ? { joint: asked.data.joint, group: ring.group, version: asked.data.version } : undefined}
        />
      )}
    </main>
  );
}

export interface At {
  joint: string;
  group: string;
  version: number;
}

interface BegunProps {
  trier: Trier;
  subject?: BenchSubject;
  way?: BenchWay;
  /** How it was made, where that is signed. */
  made?: BenchMade;
  at?: At;
}

/** Asks the model what a bench begins with, then tries it. */
function Begun({ trier, subject, way, made, at }: BegunProps) {
  const [start, setStart] = useState<BenchStart>();
  const [failed, setFailed] = useState(false);
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let here = true;
    void trier.ask<BenchStart>("begin", subject ? { subject, way } : {}).then((a) => {
      if (!here) return;
      setStart(a.is);
      setFailed(a.failed === true || a.problem !== undefined);
    });
    return () => {
      here = false;
    };
  }, [trier, subject, way, turn]);
  if (failed) return <Dead onAgain={() => setTurn((n) => n + 1)} />;
  if (!start) return <p className="soft">{tr("The model is coming.")}</p>;
  return <Trying trier={trier} start={start} planned={way} made={made} at={at} />;
}

/** The model died, or could not be had: the page goes on. */
export function Dead({ onAgain }: { onAgain: () => void }) {
  return (
    <Panel kind="stop" title={tr("The model has stopped")}>
      <p>{tr("Nothing can be tried until it is begun anew. Nothing is lost; the joint is as it was.")}</p>
      <Button mt={12} onClick={onAgain}>
        {tr("Begin it anew")}
      </Button>
    </Panel>
  );
}

const RUNS = 2000;

type Below = "compared" | "better" | "rests" | "curves" | "made" | "moved";

interface TryingProps {
  trier: Trier;
  start: BenchStart;
  planned?: BenchWay;
  made?: BenchMade;
  at?: At;
}

function Trying({ trier, start, planned, made, at }: TryingProps) {
  const [subject, setSubject] = useState(start.subject);
  const [ways, setWays] = useState(start.ways);
  const [below, setBelow] = useState<Below>(made ? "made" : "compared");
  const ask: BenchTry = useMemo(() => ({ subject, ways, runs: RUNS, seed: 1 }), [subject, ways]);
  const shown = below !== "made" && below !== "moved";
  const trial = useTrial(trier, shown ? ask : undefined);
  if (trial.failed) return <Dead onAgain={trial.again} />;
  return (
    <>
      {shown && trial.tried && trial.of && (
        <Rings
          tried={trial.tried}
          of={trial.of}
          start={start}
          planned={planned}
          ways={ways}
          onWays={setWays}
          stale={trial.busy || trial.problem !== undefined}
          small={below !== "compared"}
        />
      )}
      <Row gap={12} justify="space-between">
        <SegmentedControl
          size="md"
          value={below}
          onChange={(v) => setBelow(v as Below)}
          data={[
            ...(made ? [{ value: "made", label: tr("as it was made") }] : []),
            { value: "compared", label: tr("compared") },
            { value: "curves", label: tr("pull by pull") },
            { value: "better", label: tr("a better way") },
            { value: "rests", label: tr("what it rests on") },
            ...(at ? [] : [{ value: "moved", label: tr("what moved here") }]),
          ]}
        />
        <Button component={Link} to="/bench/drills" variant="default">
          {tr("Drills")}
        </Button>
        <span className="soft" role="status" data-trial={trial.busy ? "busy" : trial.stopped ? "stopped" : "done"}>
          {trial.busy ? (
            <Row gap={12} component="span">
              {tr("{runs} joints are being made", { runs: number(ask.runs) })}
              <Button variant="default" onClick={trial.stop}>
                {tr("Stop")}
              </Button>
            </Row>
          ) : trial.stopped ? (
            <Row gap={12} component="span">
              {tr("Stopped.")}
              <Button variant="default" onClick={trial.again}>
                {tr("Try again")}
              </Button>
            </Row>
          ) : (
            trial.of && shown && tr("{runs} joints each, the same luck for all ways", { runs: number(trial.of.runs) })
          )}
        </span>
      </Row>
      {below === "made" && made && <Replay trier={trier} made={made} />}
      {below === "moved" && <Moved />}
      {shown && trial.problem && below !== "rests" && <Refusal problem={trial.problem} />}
      {below === "compared" && trial.tried && trial.of && (
        <Compared tried={trial.tried} of={trial.of} planned={planned} at={at} stale={trial.busy || trial.problem !== undefined} />
      )}
      {below === "curves" && trial.tried && <Curves tried={trial.tried} />}
      {below === "better" && (
        <Better trier={trier} subject={subject} order={ways[0]?.order ?? ""} onCompare={(w) => setWays([...ways.slice(0, 2), w])} />
      )}
      {below === "rests" && (
        <Rests subject={subject} begun={start.subject} joint={at !== undefined} problem={trial.problem} onChange={setSubject} />
      )}
    </>
  );
}
