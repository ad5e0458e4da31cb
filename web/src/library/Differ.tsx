import { SimpleGrid, Text } from "@mantine/core";
import { useEffect } from "react";
import { useLocation } from "react-router";
import type { Library } from "../api/types";
import { Panel } from "../ui/Panel";
import classes from "./library.module.css";
import { told, tr } from "../words/words";

/** Where practitioners differ: the sides of each question, what is taken here and why, and the schools of staging. */
export function Differ({ library }: { library: Library }) {
  const at = useLocation().hash.slice(1);
  useEffect(() => {
    if (at) document.getElementById(at)?.scrollIntoView();
  }, [at]);
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <article className={classes.page} tabIndex={0} aria-label={tr("Where practitioners differ")}>
      <header className={classes.head}>
        <h1>{tr("Where practitioners differ")}</h1>
        <p className="soft">{tr("Each side is right somewhere. What is taken here unless you choose otherwise, and why, stands last.")}</p>
      </header>
      {library.differences.map((d) => (
        <section key={d.id} id={d.id} className={classes.difference}>
          <h2>{told(d.question)}</h2>
          <SimpleGrid cols={{ base: 1, md: 2, lg: 3 }} spacing={12}>
            {d.sides.map((s) => (
              <Panel key={s.name} title={told(s.name)}>
                <dl className={classes.pairs}>
                  <dt className="soft">{tr("Good for")}</dt>
                  <dd>{told(s.good)}</dd>
                  <dt className="soft">{tr("Risks")}</dt>
                  <dd>{told(s.risk)}</dd>
                </dl>
              </Panel>
            ))}
          </SimpleGrid>
          <Text className="edge" data-edge="plan" mt={10}>
            <b>{tr("Here:")}</b> {told(d.ours)}
          </Text>
        </section>
      ))}
      <section id="stages" className={classes.difference}>
        <h2>{tr("In which stages?")}</h2>
        <p className="soft">{tr("Ways of bringing a joint to its value, in percent of it.")}</p>
        <div className={classes.lists}>
          {library.schools.map((s) => (
            <Panel key={s.name} title={told(s.name)}>
              <dl className={classes.pairs}>
                <dt className="soft">{tr("Usual for")}</dt>
                <dd>{told(s.usual)}</dd>
                <dt className="soft">{tr("Risks")}</dt>
                <dd>{told(s.risk)}</dd>
                <dt className="soft">{tr("Ours for")}</dt>
                <dd>{s.kinds.length ? s.kinds.map((k) => told(k)).join(", ") : tr("no kind begins with it; choose it where it fits")}</dd>
              </dl>
            </Panel>
          ))}
        </div>
      </section>
    </article>
  );
}
