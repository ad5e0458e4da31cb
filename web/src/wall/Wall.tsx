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
          {w.site.outage}, day {w.site.day} of {w.site.days}
          {w.site.shift && `, ${w.site.shift} until ${w.site.until}`}
        </span>
      </InBar>
      <section className={classes.joints}>
        <Group component="header" align="baseline" gap={16}>
          <h1>
            {counts.signed} of {counts.total} joints signed
          </h1>
          <span className="soft">
            {counts.inHand} in hand, {counts.waiting} waiting for proof or signature, {counts.stopped} stopped
          </span>
          <Text ml="auto" c="dimmed" visibleFrom="xl">
            find a tag <kbd>/</kbd>
          </Text>
          <Group gap={8} ml="auto">
            <Lists />
            {mayAdd && (
              <Button variant="default" onClick={() => setAdding(true)}>
                Add a joint
              </Button>
            )}
          </Group>
        </Group>
        <Areas areas={w.areas} card={card} />
      </section>
      <aside className={classes.aside}>
        <h2>Yours next</h2>
        {w.next.length === 0 && <p className="soft">Nothing waits for you.</p>}
        {w.next.slice(0, MOST).map((t, i) => (
          <Next key={t.title} todo={t} first={i === 0} />
        ))}
        {w.next.length > MOST && <p className="soft">and {w.next.length - MOST} more</p>}
        {/* One that was taken along by an earlier release has none. */}
        <Silent devices={w.devices ?? []} />
        <h2>Wants a decision</h2>
        {w.decisions.length === 0 && <p className="soft">Nothing.</p>}
        {w.decisions.slice(0, MOST).map((t) => (
          <Decision key={t.title + t.text} todo={t} />
        ))}
        {w.decisions.length > MOST && <p className="soft">and {w.decisions.length - MOST} more</p>}
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
        <span className="mono fine">{card.thread || card.kind} </span>
        <span className={classes.state}>{card.text}</span>
      </span>
    </Link>
  );
}

function Next({ todo, first }: { todo: ToDo; first: boolean }) {
  return (
    <Link to={`/joint/${todo.joint}/${todo.station}`} className="pick" aria-current={first || undefined}>
      <b className="mono">{todo.title}</b>
      <p>{todo.text}</p>
      <p className="soft">{todo.detail}</p>
    </Link>
  );
}

function Decision({ todo }: { todo: ToDo }) {
  const body = (
    <>
      <b>{todo.title}</b>
      <p>{todo.text}</p>
      <p className="soft">{todo.detail}</p>
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
