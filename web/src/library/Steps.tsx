import { Stack, Text } from "@mantine/core";
import type { Recipe } from "../api/types";
import { article } from "../joint/words";
import { CautionSign } from "../ui/CautionSign";
import { Why } from "../ui/Why";
import { Only } from "./Only";
import classes from "./library.module.css";

/** The steps of a recipe at one station, in order. */
export function Steps({ station }: { station: Recipe["stations"][number] }) {
  if (station.steps.length === 0) return null;
  return (
    <section className={classes.station}>
      <h2>{station.name}</h2>
      <ol className="lines">
        {station.steps.map((s) => (
          <li key={s.id} data-free={s.free || undefined}>
            <span className="soft">{s.does}</span>
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
        {s.text}
        <Only when={s.when} />
        {s.must && <span className={classes.only}>must</span>}
        {s.free && <span className={classes.only}>in any order</span>}
        {s.why && <Why text={s.why} />}
      </p>
      {s.limit && (
        <Text c="plan" fw={700}>
          {s.limit}
          {s.places > 1 && `, at ${s.places} places`}
        </Text>
      )}
      {s.items.length > 0 && (
        <ol className={classes.items}>
          {s.items.map((i) => (
            <li key={i}>{i}</li>
          ))}
        </ol>
      )}
      {s.cautions.map((c) => (
        <CautionSign key={c.text} caution={c} small />
      ))}
      {s.photo && <Text c="dimmed">Photograph: {s.photo}</Text>}
      {s.release && (
        <Text c="now" fw={700}>
          Then released by {article(s.release)}
        </Text>
      )}
      {s.by && (
        <Text c="now" fw={700}>
          By {article(s.by)}
        </Text>
      )}
    </Stack>
  );
}
