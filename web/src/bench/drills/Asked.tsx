import { Button, Group as Row, NativeSelect, NumberInput, Stack } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import { useMay } from "../../api/queries";
import type { DrillKind, Drills } from "../../api/types";
import { Form } from "../../ui/Form";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { told, tr } from "../../words/words";
import classes from "./drills.module.css";
import { DRILLS, nameOf } from "./kinds";

/** For how many months a drill that was passed usually counts. */
const USUAL = 12;

/** Which drills are passed before a kind of joint is made; an engineer asks for them. */
export function Asked({ drills }: { drills: Drills }) {
  const engineer = useMay("engineer");
  if (!engineer && drills.asked.length === 0) return null;
  return (
    <Panel title={tr("Passed before a kind of joint is made")} className={classes.asked}>
      {drills.asked.length > 0 && (
        <ul>
          {drills.asked.map((a) => (
            <Line key={`${a.recipe} ${a.kind}`} of={a} engineer={engineer} />
          ))}
        </ul>
      )}
      {engineer && <Ask drills={drills} />}
    </Panel>
  );
}

function useChange(change: (what: { recipe: string; kind: DrillKind; months: number }) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all([["drills"], ["joint"]].map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

function Line({ of: a, engineer }: { of: Drills["asked"][number]; engineer: boolean }) {
  const drop = useChange(({ recipe, kind }) =>
    take(http.DELETE("/api/drills/asked/{recipe}/{drill}", { params: { path: { recipe, drill: kind } } })),
  );
  return (
    <li data-asked={a.kind} data-recipe={a.recipe}>
      <span>
        <b>{told(a.title)}:</b>{" "}
        {tr("{drill}; it counts for {count} months. {by} asks for it.", { drill: nameOf(a.kind), count: a.months, by: a.by })}
      </span>
      {engineer && (
        <Button variant="default" onClick={() => drop.mutate(a)} loading={drop.isPending}>
          {tr("Ask no more")}
        </Button>
      )}
      <Refusal error={drop.error} />
    </li>
  );
}

function Ask({ drills }: { drills: Drills }) {
  const [recipe, setRecipe] = useState(drills.kinds[0]?.recipe ?? "");
  const [kind, setKind] = useState<DrillKind>("which bolt next");
  const [months, setMonths] = useState<number>(USUAL);
  const ask = useChange((body) => take(http.PUT("/api/drills/asked", { body })));
  return (
    <Form onSend={() => ask.mutate({ recipe, kind, months })}>
      <Stack gap={10}>
        <Row gap={12} align="end">
          <NativeSelect
            size="md"
            label={tr("Before this kind of joint")}
            name="recipe"
            value={recipe}
            onChange={(e) => setRecipe(e.currentTarget.value)}
            data={drills.kinds.map((k) => ({ value: k.recipe, label: told(k.title) }))}
          />
          <NativeSelect
            size="md"
            label={tr("this drill")}
            name="drill"
            value={kind}
            onChange={(e) => setKind(e.currentTarget.value as DrillKind)}
            data={DRILLS.map((d) => ({ value: d.kind, label: d.name }))}
          />
          <NumberInput
            size="md"
            w={170}
            label={tr("It counts for, months")}
            name="months"
            value={months}
            allowDecimal={false}
            onChange={(v) => setMonths(Number(v))}
          />
          <Button type="submit" size="md" loading={ask.isPending} data-ask>
            {tr("Ask for it")}
          </Button>
        </Row>
        <p className="soft">
          {tr("From then on a fitter who has not passed it is stopped before the next act, also in the middle of a joint.")}
        </p>
        <Refusal error={ask.error} />
      </Stack>
    </Form>
  );
}
