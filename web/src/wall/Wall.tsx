import { Button, Group, Text } from "@mantine/core";
import { useCallback, useState } from "react";
import { Link } from "react-router";
import { useMay, useWall } from "../api/queries";
import type { Figure, JointCard, ToDo } from "../api/types";
import { InBar } from "../app/Shell";
import { Glyph } from "../drawing/Glyph";
import { Refusal } from "../ui/Refusal";
import { AddJoint } from "./AddJoint";
import { Areas } from "./Areas";
import { Lists } from "./Lists";
import { Silent } from "./Silent";
import classes from "./wall.module.css";
import { told, tr } from "../words/words";

/** How much of a list stands beside the joints. */
const MOST = 20;

/** All joints of the outage by area, what is next for whoever looks, and what wants a decision. */
export function Wall() {
  const wall = useWall();
  const mayAdd = useMay("fitter", "engineer", "planner");
  const [adding, setAdding] = useState(false);
  const w = wall.data;
  const figures = w?.figures;
  const card = useCallback((j: JointCard) => <Card key={j.id} card={j} figure={figures?.[j.figure]} />, [figures]);
  if (!w) return wall.isError ? <Refusal error={wall.error} /> : null;
  const { counts } = w;
  return (
    <main className={classes.wall}>
      <InBar>
        <Text fz={18}>{w.site.name}</Text>
        <span className={classes.outage}>
          {tr("{outage}, day {day} of {days}{shift}", {
            outage: w.site.outage,
            day: w.site.day,
            days: w.site.days,
            shift: w.site.shift && tr(", {shift} until {until}", { shift: w.site.shift, until: w.site.until }),
          })}
        </span>
      </InBar>
      <section className={classes.joints}>
        <Group component="header" align="baseline" gap={16}>
          <h1>{tr("{signed} of {count} joints signed", { signed: counts.signed, count: counts.total })}</h1>
          <span className="soft">
            {tr("{inHand} in hand, {waiting} waiting for proof or signature, {stopped} stopped", {
              inHand: counts.inHand,
              waiting: counts.waiting,
              stopped: counts.stopped,
            })}
          </span>
          <Text ml="auto" c="dimmed" visibleFrom="xl">
            {tr("find a tag")} <kbd>/</kbd>
          </Text>
          <Group gap={8} ml="auto">
            <Lists />
            {mayAdd && (
              <Button variant="default" onClick={() => setAdding(true)}>
                {tr("Add a joint")}
              </Button>
            )}
          </Group>
        </Group>
        <Areas areas={w.areas} card={card} />
      </section>
      <aside className={classes.aside}>
        <h2>{tr("Yours next")}</h2>
        {w.next.length === 0 && <p className="soft">{tr("Nothing waits for you.")}</p>}
        {w.next.slice(0, MOST).map((t, i) => (
          <Next key={t.title} todo={t} first={i === 0} />
        ))}
        {w.next.length > MOST && <p className="soft">{tr("and {next} more", { next: w.next.length - MOST })}</p>}
        {/* One that was taken along by an earlier release has none. */}
        <Silent devices={w.devices ?? []} />
        <h2>{tr("Wants a decision")}</h2>
        {w.decisions.length === 0 && <p className="soft">{tr("Nothing.")}</p>}
        {w.decisions.slice(0, MOST).map((t) => (
          <Decision key={t.title + t.text} todo={t} />
        ))}
        {w.decisions.length > MOST && <p className="soft">{tr("and {decisions} more", { decisions: w.decisions.length - MOST })}</p>}
      </aside>
      {adding && <AddJoint onClose={() => setAdding(false)} />}
    </main>
  );
}

function Card({ card, figure }: { card: JointCard; figure?: Figure }) {
  return (
    <Link to={`/joint/${card.id}/${card.station}`} className={classes.card} data-state={card.state}>
      <Glyph figure={figure} levels={card.levels} marks={card.marks} />
      <span className={classes.cardWords}>
        <b className={`mono ${classes.tag}`}>{card.tag}</b>
        <span className="mono fine">{card.thread || told(card.kind)} </span>
        <span className={classes.state}>{told(card.text)}</span>
      </span>
    </Link>
  );
}

function Next({ todo, first }: { todo: ToDo; first: boolean }) {
  return (
    <Link to={`/joint/${todo.joint}/${todo.station}`} className="pick" aria-current={first || undefined}>
      <b className="mono">{told(todo.title)}</b>
      <p>{told(todo.text)}</p>
      <p className="soft">{told(todo.detail)}</p>
    </Link>
  );
}

function Decision({ todo }: { todo: ToDo }) {
  const body = (
    <>
      <b>{told(todo.title)}</b>
      <p>{told(todo.text)}</p>
      <p className="soft">{told(todo.detail)}</p>
    </>
  );
  return (
    <div className="edge" data-edge={todo.grave ? "stop" : "mind"}>
      {todo.joint || todo.tool ? (
        <Link to={todo.tool ? `/crib/${encodeURIComponent(todo.tool)}` : `/joint/${todo.joint}/${todo.station}`} className="plain">
          {body}
        </Link>
      ) : (
        body
      )}
    </div>
  );
}
