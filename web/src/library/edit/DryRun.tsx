import { Button, Group, NativeSelect, Text } from "@mantine/core";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { RehearsalLine } from "../../api/types";
import { article } from "../../joint/words";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import classes from "./edit.module.css";

interface DryRunProps {
  file: string;
  onStep: (id: string) => void;
}

/** The recipe gone through dry in one variant, as the engine would lead it: each step with what was read and what comes of worse. */
export function DryRun({ file, onStep }: DryRunProps) {
  const [choices, setChoices] = useState<Record<string, string>>({});
  const run = useQuery({
    queryKey: ["rehearsal", file, choices],
    queryFn: () => take(http.POST("/api/library/rehearsal", { body: { file, choices } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const r = run.data;
  if (run.error) return <Refusal error={run.error} />;
  if (!r) return null;
  return (
    <div className={classes.dry} aria-busy={run.isFetching}>
      <Group gap={12} align="flex-end">
        {r.choices.map((c) => (
          <NativeSelect
            key={c.name}
            label={c.text}
            data={c.options}
            value={r.chosen[c.name]}
            onChange={(e) => setChoices({ ...choices, [c.name]: e.currentTarget.value })}
          />
        ))}
      </Group>
      {r.stuck ? (
        <Panel kind="stop" title={r.at ? `It stops at ${r.at}` : "It cannot be begun"}>
          <p>{r.stuck}</p>
          {r.at && (
            <Button variant="default" mt={8} onClick={() => onStep(r.at!)}>
              To the step
            </Button>
          )}
        </Panel>
      ) : (
        <Panel kind="held" title="It can be followed to its signatures">
          <p>
            {r.joint && `${r.joint}: `}
            {r.presses} acts, {r.pulls} of them at bolts.
            {r.madeUp.length > 0 && ` Made up, as no sheet gives it: ${r.madeUp.join("; ")}.`}
          </p>
          <p className="soft">
            Readings are made up, in the middle of their limits. It shows that the recipe leads through, not that its figures are right.
          </p>
        </Panel>
      )}
      {r.stations.map((s) => (
        <section key={s.name} className={classes.dryStation}>
          <h2>{s.name}</h2>
          <ol>
            {s.lines.map((l) => (
              <Line key={l.id} line={l} onStep={onStep} />
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

function Line({ line: l, onStep }: { line: RehearsalLine; onStep: (id: string) => void }) {
  const acts = l.presses === 1 ? "1 act" : `${l.presses} acts`;
  return (
    <li data-reached={l.reached || undefined} data-dry={l.id}>
      <span className="mono">{l.reached ? acts : "not reached"}</span>
      <div>
        <p>
          <button type="button" className="link" onClick={() => onStep(l.id)}>
            {l.does}
          </button>{" "}
          {l.text}
        </p>
        {l.pulls > 0 && (
          <p className="soft">
            {l.pulls} at bolts{l.rounds > 0 && `, ${l.rounds === 1 ? "1 round" : `${l.rounds} rounds`} of them`}
          </p>
        )}
        {l.ticks.length > 0 && <p className="soft">{l.ticks.join(" · ")}</p>}
        {l.marks.length > 0 && <p className="soft">{l.marks.join(" · ")}</p>}
        {l.readings && (
          <p>
            <b>{l.readings}</b>
            {l.comes && `: ${l.comes}`}
            {l.limit && <span className="soft"> ({l.limit})</span>}
          </p>
        )}
        {l.held ? <p className="soft">Waited {l.held} min</p> : null}
        {l.outside && (
          <p className={classes.worse}>
            {l.outside} <span className="soft">{l.then}</span>
          </p>
        )}
        {l.photo && <p className="soft">Photograph: {l.photo}</p>}
        {l.by && <Text c="now">By {article(l.by)}</Text>}
        {l.released && <Text c="now">Then released by {article(l.released)}</Text>}
        {l.must && <p className="soft">It cannot be left undone.</p>}
      </div>
    </li>
  );
}
