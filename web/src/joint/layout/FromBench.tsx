import { Stack } from "@mantine/core";
import type { BenchCompared } from "../../api/types";
import { Outcomes } from "../../bench/Outcomes";
import { stagesOf } from "../../bench/words";
import { number } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { told, tr } from "../../words/words";

/** What was compared on the Bench when a way was taken from there: it stays with the plan. */
export function FromBench({ compared: c, named }: { compared: BenchCompared; named: boolean }) {
  const taken = c.ways[c.taken];
  if (!taken) return null;
  const rests = [c.subject.gasket, c.subject.flange, c.subject.bolt, c.subject.friction, c.subject.kept, c.subject.pull];
  return (
    <Panel
      kind={c.stands ? undefined : "mind"}
      title={tr("Taken from the Bench: {way}", { way: stagesOf(taken.way) })}
      aside={named && told(c.group)}
    >
      {!c.stands && <p>{tr("It is laid out otherwise since: what was compared is no longer what is planned.")}</p>}
      <Outcomes outcomes={c.ways} planned={taken.way} marked={tr("(taken)")} />
      <p className="fine">{tr("{runs} joints each, the same luck for all ways. A help, and no permission.", { runs: number(c.runs) })}</p>
      <details>
        <summary>{tr("what it rests on")}</summary>
        <Stack component="ul" gap={2} className="fine">
          {rests.map((f) => (
            <li key={f.from}>{told(f.from)}</li>
          ))}
        </Stack>
      </details>
    </Panel>
  );
}
