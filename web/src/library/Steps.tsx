import { Stack, Text } from "@mantine/core";
import type { Recipe } from "../api/types";
import { article } from "../joint/words";
import { CautionSign } from "../ui/CautionSign";
import { Why } from "../ui/Why";
import { Only } from "./Only";
import classes from "./library.module.css";
import { Told } from "../ui/Told";
import { told, tr } from "../words/words";

/** The steps of a recipe at one station, in order. */
export function Steps({ station }: { station: Recipe["stations"][number] }) {
  if (station.steps.length === 0) return null;
  return (
    <section className={classes.station}>
      <h2>{told(station.name)}</h2>
      <ol className="lines">
        {station.steps.map((s) => (
          <li key={s.id} data-free={s.free || undefined}>
            <span className="soft">{told(s.does)}</span>
            <StepWords step={s} />
          </li>
        ))}
      </ol>
    </section>
  );
}

/** A step as the Library tells it. */
export function StepWords({ step: s }: { step: Recipe["stations"][number]["steps"][number] }) {
  return (
    <Stack gap={4}>
      <p>
        <Told text={s.text} />
        <Only when={s.when} />
        {s.must && <span className={classes.only}>{tr("must")}</span>}
        {s.free && <span className={classes.only}>{tr("in any order")}</span>}
        {s.why && <Why text={s.why} />}
      </p>
      {s.limit && (
        <Text c="plan" fw={700}>
          {told(s.limit)}
          {s.places > 1 && tr(", at {count} places", { count: s.places })}
        </Text>
      )}
      {s.items.length > 0 && (
        <ol className={classes.items}>
          {s.items.map((i) => (
            <li key={i}>
              <Told text={i} />
            </li>
          ))}
        </ol>
      )}
      {s.cautions.map((c) => (
        <CautionSign key={c.text} caution={c} small />
      ))}
      {s.photo && <Text c="dimmed">{tr("Photograph: {photo}", { photo: told(s.photo) })}</Text>}
      {s.release && (
        <Text c="now" fw={700}>
          {tr("Then released by {release}", { release: article(s.release) })}
        </Text>
      )}
      {s.by && (
        <Text c="now" fw={700}>
          {tr("By {by}", { by: article(s.by) })}
        </Text>
      )}
    </Stack>
  );
}
