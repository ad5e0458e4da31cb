import { Button, Group, NativeSelect, Text } from "@mantine/core";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { RehearsalLine } from "../../api/types";
import { article } from "../../joint/words";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

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
            label={told(c.text)}
            data={c.options}
            value={r.chosen[c.name]}
            onChange={(e) => setChoices({ ...choices, [c.name]: e.currentTarget.value })}
          />
        ))}
      </Group>
      {r.stuck ? (
        <Panel kind="stop" title={r.at ? tr("It stops at {at}", { at: r.at }) : tr("It cannot be begun")}>
          <p>{told(r.stuck)}</p>
          {r.at && (
            <Button variant="default" mt={8} onClick={() => onStep(r.at!)}>
              {tr("To the step")}
            </Button>
          )}
        </Panel>
      ) : (
        <Panel kind="held" title={tr("It can be followed to its signatures")}>
          <p>
            {tr("{joint}{presses} acts, {pulls} of them at bolts.{madeUp}", {
              joint: r.joint && `${r.joint}: `,
              presses: r.presses,
              pulls: r.pulls,
              madeUp: r.madeUp.length > 0 && tr(" Made up, as no sheet gives it: {madeUp}.", { madeUp: r.madeUp.join("; ") }),
            })}
          </p>
          <p className="soft">
            {tr(
              "Readings are made up, in the middle of their limits. It shows that the recipe leads through, not that its figures are right.",
            )}
          </p>
        </Panel>
      )}
      {r.stations.map((s) => (
        <section key={s.name} className={classes.dryStation}>
          <h2>{told(s.name)}</h2>
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
  const acts = tr("{count} acts", { count: l.presses });
  return (
    <li data-reached={l.reached || undefined} data-dry={l.id}>
      <span className="mono">{l.reached ? acts : tr("not reached")}</span>
      <div>
        <p>
          <button type="button" className="link" onClick={() => onStep(l.id)}>
            {told(l.does)}
          </button>{" "}
          {told(l.text)}
        </p>
        {l.pulls > 0 && (
          <p className="soft">
            {tr("{count} at bolts", { count: l.pulls })}
            {l.rounds > 0 && tr(", {count} rounds of them", { count: l.rounds })}
          </p>
        )}
        {l.ticks.length > 0 && <p className="soft">{l.ticks.map((x) => told(x)).join(" · ")}</p>}
        {l.marks.length > 0 && <p className="soft">{l.marks.map((x) => told(x)).join(" · ")}</p>}
        {l.readings && (
          <p>
            <b>{told(l.readings)}</b>
            {l.comes && `: ${told(l.comes)}`}
            {l.limit && (
              <span className="soft">
                {" ("}
                {told(l.limit)})
              </span>
            )}
          </p>
        )}
        {l.held ? <p className="soft">{tr("Waited {held} min", { held: l.held })}</p> : null}
        {l.outside && (
          <p className={classes.worse}>
            {told(l.outside)} <span className="soft">{told(l.then)}</span>
          </p>
        )}
        {l.photo && <p className="soft">{tr("Photograph: {photo}", { photo: told(l.photo) })}</p>}
        {l.by && <Text c="now">{tr("By {by}", { by: article(l.by) })}</Text>}
        {l.released && <Text c="now">{tr("Then released by {released}", { released: article(l.released) })}</Text>}
        {l.must && <p className="soft">{tr("It cannot be left undone.")}</p>}
      </div>
    </li>
  );
}
