import { Button, Group } from "@mantine/core";
import type { Recipe } from "../../api/types";
import { Panel } from "../../ui/Panel";
import { StepWords } from "../Steps";
import { useEditing } from "./context";
import { another, at, insert, list, move, names, put, text, type Doc } from "./document";
import { Fields } from "./Fields";
import { stationsOf } from "./shape";
import classes from "./edit.module.css";
import { tr } from "../../words/words";

interface StepFormProps {
  index: number;
  /** The recipe as it last held. */
  recipe?: Recipe;
  onChoose: (place: string) => void;
}

/** One step: its fields, where it stands, and how it reads to whoever is led by it. */
export function StepForm({ index: i, recipe, onChoose }: StepFormProps) {
  const { doc, change, shape } = useEditing();
  const stations = stationsOf(shape);
  const steps = list(doc, ["steps"]);
  const step = at(doc, ["steps", i]);
  const station = text(step, "station");
  const shown = recipe?.stations.flatMap((s) => s.steps).find((s) => s.id === text(step, "id"));
  const stationOf = (k: number) => text(steps[k], "station");
  const next = (by: -1 | 1) => stations[stations.indexOf(station) + by];
  /** Past the end of its station a step goes on into the next, before it goes past a step there. */
  const shift = (by: -1 | 1) => {
    const beside = stationOf(i + by);
    if (beside !== station) {
      const to = next(by);
      if (to) change((d) => put(d, ["steps", i, "station"], to));
      return;
    }
    change((d) => move(d, ["steps"], i, i + by));
    onChoose(`steps.${i + by}`);
  };
  const copy = () => {
    const one: Doc = { ...(step as Doc), id: another(text(step, "id"), names(doc, ["steps"], "id")) };
    change((d) => insert(d, ["steps"], i + 1, one));
    onChoose(`steps.${i + 1}`);
  };
  return (
    <>
      <Group justify="space-between" align="flex-start" mb={10}>
        <h1 className={classes.stepTitle}>
          {station || tr("step")}
          {", "}
          {text(step, "does")}
        </h1>
        <Group gap={8}>
          <Button
            variant="default"
            aria-label={tr("Earlier")}
            disabled={stationOf(i - 1) !== station && !next(-1)}
            onClick={() => shift(-1)}
          >
            {tr("↑ Earlier")}
          </Button>
          <Button variant="default" aria-label={tr("Later")} disabled={stationOf(i + 1) !== station && !next(1)} onClick={() => shift(1)}>
            {tr("↓ Later")}
          </Button>
          <Button variant="default" onClick={copy}>
            {tr("Copy")}
          </Button>
          <Button
            variant="subtle"
            color="stop"
            onClick={() => {
              change((d) => put(d, ["steps", i], undefined));
              onChoose(`steps.${Math.max(0, i - 1)}`);
            }}
          >
            {tr("Take it out")}
          </Button>
        </Group>
      </Group>
      {shown && (
        <Panel title={tr("As it reads")} className={classes.reads}>
          <StepWords step={shown} />
        </Panel>
      )}
      <Fields path={["steps", i]} />
    </>
  );
}
