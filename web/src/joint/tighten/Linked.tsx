import { Button, Group, Modal, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { LinkedReading, Joint, Run, TapeLine } from "../../api/types";
import { Trace } from "../../drawing/Trace";
import { Dialog } from "../../ui/Form";
import { number, time } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import classes from "./tighten.module.css";
import { told, tr } from "../../words/words";

/** Whether one of the tools of a run may speak: it shows its value by itself. */
const speaks = (run: Run) =>
  run.groups.some((g) =>
    [g.tooling ?? [], ...(g.beside ?? [])].flat().some((t) => t.face.kind === "electronic" || t.face.kind === "gauge"),
  );

/** What linked tools read that somebody has to say something of. */
export function Linked({ joint, run, may }: { joint: Joint; run: Run; may: boolean }) {
  const open = useLinked(joint, run);
  const first = open?.readings[0];
  if (!first) return null;
  return <Waits key={first.id} joint={joint} run={run} reading={first} more={open!.readings.length - 1} may={may} />;
}

/** What linked tools read that somebody has to say something of, and which of a run's tools are linked now. */
export function useLinked(joint: Joint, run: Run) {
  return useQuery({
    queryKey: ["joint", joint.id, "readings", run.id],
    queryFn: () => take(http.GET("/api/runs/{run}/readings/open", { params: { path: { run: run.id } } })),
    enabled: speaks(run),
    refetchInterval: 30_000,
  }).data;
}

/** Says that a tool sends its readings itself. */
export function LinkedBadge({ joint, run, tool }: { joint: Joint; run: Run; tool: string | undefined }) {
  const linked = useLinked(joint, run)?.linked;
  if (!tool || !linked?.includes(tool)) return null;
  return (
    <span className={classes.linked} data-linked-tool={tool}>
      {tr("linked: its readings come by themselves")}
    </span>
  );
}

interface WaitsProps {
  joint: Joint;
  run: Run;
  reading: LinkedReading;
  more: number;
  may: boolean;
}

function Waits({ joint, run, reading: r, more, may }: WaitsProps) {
  const queries = useQueryClient();
  const [why, setWhy] = useInputState("");
  const [aside, setAside] = useState(false);
  const settle = useMutation({
    mutationFn: (claim: boolean) =>
      take(
        http.POST("/api/readings/{reading}", {
          params: { path: { reading: r.id } },
          body: { claim, run: run.id, ...(claim ? {} : { reason: why }) },
        }),
      ),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["joint", joint.id] }),
  });
  return (
    <Panel
      kind={r.verdict === "past" ? "stop" : "mind"}
      title={tr("{tool} read {r} {unit}", { tool: r.tool, r: number(r.value), unit: r.unit })}
      aside={`${time(r.at)}${more > 0 ? tr(", {more} more", { more }) : ""}`}
    >
      <p data-linked={r.verdict}>
        {r.verdict === "past" ? tr("Past what it was to reach: {says}", { says: told(r.says) }) : told(r.says)}{" "}
        {r.story && r.story !== "good" && `${capital(told(r.story))}: ${told(r.why)}`}
      </p>
      <Refusal error={settle.error} />
      {may && (
        <Group grow gap={10} mt={8}>
          <Button color="stop" variant="outline" mih={52} onClick={() => settle.mutate(true)} data-act="claim">
            {run.next?.bolt ? tr("It is {next}’s", { next: told(run.next.name) }) : tr("It is the next pull")}
          </Button>
          <Button color="plan" mih={52} onClick={() => setAside(true)} data-act="lay-aside">
            {tr("It is none")}
          </Button>
        </Group>
      )}
      {aside && (
        <Dialog
          title={tr("Lay the reading aside")}
          act={tr("It is no pull")}
          color="plan"
          ready={why.trim() !== ""}
          onClose={() => setAside(false)}
          onAct={() => {
            setAside(false);
            settle.mutate(false);
          }}
        >
          <Textarea label={tr("Why, in a few words")} value={why} onChange={setWhy} data-autofocus />
        </Dialog>
      )}
    </Panel>
  );
}

const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** The trace of a pull that its tool sent: small on the tape, large on touch, with what it tells. */
export function TapeTrace({ line }: { line: TapeLine }) {
  const [open, setOpen] = useState(false);
  const reading = useQuery({
    queryKey: ["reading", line.id],
    queryFn: () => take(http.GET("/api/readings/{reading}", { params: { path: { reading: line.id } } })),
    staleTime: Infinity,
  });
  const r = reading.data;
  if (!r || r.trace.length === 0) return null;
  const words = tr("Trace of {what}: {story}", { what: told(line.what), story: told(r.story) ?? tr("torque over angle") });
  const target = r.target === undefined ? undefined : { value: r.target, low: r.low!, high: r.high! };
  return (
    <>
      <button type="button" className="bare" onClick={() => setOpen(true)} aria-label={words} data-story={r.story}>
        <Trace points={r.trace} unit={r.unit} words={words} small />
      </button>
      {open && (
        <Modal opened onClose={() => setOpen(false)} title={<b>{`${capital(told(line.what))}, ${r.tool}`}</b>} size="xl">
          <Trace points={r.trace} unit={r.unit} words={words} target={target} />
          {r.story && (
            <p className="big">
              <b>{capital(told(r.story))}</b>
            </p>
          )}
          {r.why && <p>{told(r.why)}</p>}
          <p className="fine">{tr("A help to look, no verdict: who looks at the bolt decides.")}</p>
        </Modal>
      )}
    </>
  );
}
