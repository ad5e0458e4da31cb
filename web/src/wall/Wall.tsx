import { Button, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { http, take } from "../api/client";
import { useMay, useSession, useWall } from "../api/queries";
import type { JointCard, ToDo } from "../api/types";
import { InBar } from "../app/Shell";
import { Glyph } from "../drawing/Glyph";
import { Refusal } from "../ui/Refusal";
import ui from "../ui/ui.module.css";
import classes from "./wall.module.css";

/** All joints of the outage by area, what is next for whoever looks, and what wants a decision. */
export function Wall() {
  const wall = useWall();
  const mayAdd = [useMay("fitter"), useMay("engineer")].some(Boolean);
  const [adding, setAdding] = useState(false);
  const w = wall.data;
  if (!w) return wall.isError ? <Refusal error={wall.error} /> : null;
  const { counts } = w;
  return (
    <main className={classes.wall}>
      <InBar>
        <span className={classes.site}>{w.site.name}</span>
        <span className={classes.outage}>
          {w.site.outage}, day {w.site.day} of {w.site.days}
        </span>
      </InBar>
      <section className={classes.joints}>
        <header className={classes.head}>
          <h1>
            {counts.signed} of {counts.total} joints signed
          </h1>
          <span className="soft">
            {counts.inHand} in hand, {counts.waiting} waiting for proof or signature, {counts.stopped} stopped
          </span>
          <span className={classes.find}>
            find a tag <kbd>/</kbd>
          </span>
        </header>
        {w.areas.map((a) => (
          <section key={a.name}>
            <h2 className={classes.area}>
              {a.name} <span className="soft">{a.joints.length} joints</span>
            </h2>
            <div className={classes.cards}>
              {a.joints.map((j) => (
                <Card key={j.id} card={j} />
              ))}
            </div>
          </section>
        ))}
        {mayAdd && (
          <Button variant="default" onClick={() => setAdding(true)} className={classes.add}>
            Add a joint
          </Button>
        )}
      </section>
      <aside className={classes.aside}>
        <h2>Yours next</h2>
        {w.next.length === 0 && <p className="soft">Nothing waits for you.</p>}
        {w.next.map((t, i) => (
          <Next key={t.title} todo={t} first={i === 0} />
        ))}
        <h2>Wants a decision</h2>
        {w.decisions.length === 0 && <p className="soft">Nothing.</p>}
        {w.decisions.map((t) => (
          <Decision key={t.title + t.text} todo={t} />
        ))}
      </aside>
      <AddJoint opened={adding} onClose={() => setAdding(false)} />
    </main>
  );
}

function Card({ card }: { card: JointCard }) {
  return (
    <Link to={`/joint/${card.id}/${card.station}`} className={classes.card} data-state={card.state}>
      <Glyph card={card} />
      <span className={classes.cardWords}>
        <b className={`mono ${classes.tag}`}>{card.tag}</b>
        <span className={`mono ${classes.thread}`}>{card.bolts ? `${card.bolts} × ${card.thread}` : "no sentence yet"}</span>
        <span className={classes.state}>{card.text}</span>
      </span>
    </Link>
  );
}

function Next({ todo, first }: { todo: ToDo; first: boolean }) {
  return (
    <Link to={`/joint/${todo.joint}/${todo.station}`} className={classes.next} data-first={first || undefined}>
      <b className="mono">{todo.title}</b>
      <span>{todo.text}</span>
      <span className="soft">{todo.detail}</span>
    </Link>
  );
}

function Decision({ todo }: { todo: ToDo }) {
  const body = (
    <>
      <b>{todo.title}</b>
      <span>{todo.text}</span>
      <span className="soft">{todo.detail}</span>
    </>
  );
  if (!todo.joint) {
    return (
      <div className={classes.decision} data-grave={todo.grave || undefined}>
        {body}
      </div>
    );
  }
  return (
    <Link to={`/joint/${todo.joint}/${todo.station}`} className={classes.decision} data-grave={todo.grave || undefined}>
      {body}
    </Link>
  );
}

function AddJoint({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const session = useSession();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const areas = session?.site.areas ?? [];
  const [tag, setTag] = useState("");
  const [title, setTitle] = useState("");
  const [area, setArea] = useState("");
  const add = useMutation({
    mutationFn: () => take(http.POST("/api/joints", { body: { tag, title, area: area || areas[0]!.id } })),
    onSuccess: (j) => {
      queries.setQueryData(["joint", j.id], j);
      void queries.invalidateQueries({ queryKey: ["wall"] });
      void navigate(`/joint/${j.id}/1`);
    },
  });
  return (
    <Modal opened={opened} onClose={onClose} title={<b>Add a joint</b>}>
      <form
        className={ui.stack}
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <TextInput label="Tag, as on the drawing" value={tag} onChange={(e) => setTag(e.currentTarget.value)} placeholder="PS-1 / BYPASS" data-autofocus />
        <TextInput label="What it is" value={title} onChange={(e) => setTitle(e.currentTarget.value)} placeholder="Penstock bypass flange" />
        <NativeSelect label="Area" data={areas.map((a) => ({ value: a.id, label: a.name }))} value={area} onChange={(e) => setArea(e.currentTarget.value)} />
        {add.isError && <Refusal error={add.error} />}
        <div className={ui.between}>
          <Button variant="default" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" color="now" loading={add.isPending} disabled={tag.trim().length < 2 || title.trim().length < 2}>
            Lay it out
          </Button>
        </div>
      </form>
    </Modal>
  );
}
