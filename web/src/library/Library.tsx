import { Box, Group, Text } from "@mantine/core";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useLibrary } from "../api/queries";
import type { Recipe } from "../api/types";
import { InBar } from "../app/Shell";
import { Glyph } from "../drawing/Glyph";
import { KindMark } from "../drawing/KindMark";
import { Stack } from "../drawing/Stack";
import { Panel } from "../ui/Panel";
import { Papers } from "../ui/Papers";
import { Refusal } from "../ui/Refusal";
import { Certificates } from "./Certificates";
import { Differ } from "./Differ";
import { Keeping } from "./Keeping";
import { Lubricants } from "./Lubricants";
import { Only } from "./Only";
import { OwnGaskets } from "./OwnGaskets";
import { SheetTable } from "./SheetTable";
import { Steps } from "./Steps";
import classes from "./library.module.css";
import { told, tr } from "../words/words";

/** How each kind of joint is made, and where practitioners differ. */
export function Library() {
  const library = useLibrary();
  const { recipe: chosen } = useParams();
  const l = library.data;
  if (!l) return library.isError ? <Refusal error={library.error} /> : null;
  const recipe = l.recipes.find((r) => r.id === chosen);
  const Own = OWN[chosen ?? ""];
  return (
    <main className={classes.library} data-chosen={chosen ? true : undefined}>
      <InBar>
        <Text fz={18}>{tr("Library")}</Text>
      </InBar>
      <nav className={classes.list} aria-label={tr("Kinds of joint")}>
        <Link to="/library/differ" aria-current={recipe || Own ? undefined : "page"} className={classes.row}>
          <Sign d="M10 6 V30 M26 6 V30 M5 12 H15 M5 21 H15 M21 9 H31 M21 16 H31 M21 23 H31" />
          <span>{tr("Where practitioners differ")}</span>
        </Link>
        {Object.entries(OWN).map(([id, { title, sign }]) => (
          <Link key={id} to={`/library/${id}`} aria-current={chosen === id ? "page" : undefined} className={classes.row}>
            <Sign d={sign} />
            <span>{title}</span>
          </Link>
        ))}
        {l.recipes.map((r) => (
          <Link
            key={r.id}
            to={`/library/${r.id}`}
            aria-current={r === recipe ? "page" : undefined}
            className={classes.row}
            ref={r === recipe ? intoView : undefined}
          >
            <KindMark recipe={r} size={36} />
            <span>{r.retired ? <s>{told(r.title)}</s> : told(r.title)}</span>
          </Link>
        ))}
      </nav>
      {Own ? <Own.page /> : recipe ? <Page recipe={recipe} key={recipe.id} /> : <Differ library={l} />}
    </main>
  );
}

function intoView(row: HTMLElement | null) {
  row?.scrollIntoView({ block: "nearest" });
}

/** The site's own figures, each a page: a drop, a ring, a sheet with its seal. */
const OWN: Record<string, { title: string; sign: string; page: () => ReactNode }> = {
  lubricants: { title: tr("Lubricants"), sign: "M18 5 C12 14 9 18 9 23 A9 9 0 0 0 27 23 C27 18 24 14 18 5 Z", page: Lubricants },
  gaskets: { title: tr("Gaskets"), sign: "M18 5 A13 13 0 1 1 17.9 5 Z M18 11 A7 7 0 1 1 17.9 11 Z", page: OwnGaskets },
  certificates: {
    title: tr("Certificates"),
    sign: "M8 5 H28 V31 H8 Z M12 12 H24 M12 17 H24 M21 25 A3 3 0 1 1 20.9 25",
    page: Certificates,
  },
};

function Sign({ d }: { d: string }) {
  return (
    <svg viewBox="0 0 36 36" width="36" height="36" aria-hidden="true" className={classes.compare}>
      <path d={d} />
    </svg>
  );
}

function Page({ recipe: r }: { recipe: Recipe }) {
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <article className={classes.page} tabIndex={0} aria-label={told(r.title)}>
      <Group component="header" gap={18} mb={14} className={classes.head}>
        <Glyph figure={r.figure} size={84} />
        <Box flex="1 1 220px">
          <h1>{told(r.title)}</h1>
          <p className="soft">
            {tr("Edition {edition}{madeBy}. Figures are starting values; the maker's sheet for the nameplate replaces them.", {
              edition: r.edition,
              madeBy: r.madeBy && tr(", by {madeBy}", { madeBy: r.madeBy }),
            })}
          </p>
        </Box>
        <Link to="/library" className={classes.back}>
          {tr("All kinds")}
        </Link>
      </Group>
      {r.fault && (
        <Panel kind="stop" title={tr("This is not the recipe that was added")}>
          <p>{tr("{fault} No joint is made by it.", { fault: told(r.fault) })}</p>
        </Panel>
      )}
      {r.retired && (
        <Panel kind="stop" title={tr("Retired")}>
          <p>{tr("No new joint is made by it: {retired}", { retired: r.retired })}</p>
        </Panel>
      )}
      <Keeping recipe={r} />
      {r.against && (
        <Panel kind="mind" title={tr("Order: {order}", { order: told(r.order) })}>
          <p>
            {told(r.against)} <Link to="/library/differ#orders">{tr("Where practitioners differ")}</Link>
          </p>
        </Panel>
      )}
      {r.stack && (
        <Panel
          title={
            r.stack.up
              ? tr("From {first} up to {last}", { first: told(r.stack.first), last: told(r.stack.last) })
              : tr("Along its axis, from {first} to {last}", { first: told(r.stack.first), last: told(r.stack.last) })
          }
        >
          <div className={classes.axis} data-up={r.stack.up || undefined}>
            <Stack stack={r.stack} title={tr("Parts of a {title}", { title: told(r.title) })} room={860} />
          </div>
        </Panel>
      )}
      <div className={classes.lists}>
        <Papers at={{ recipe: r.id }} words={(id) => r.stations.flatMap((s) => s.steps).find((s) => s.id === id)?.text} />
        {r.choices.length > 0 && (
          <Panel title={tr("Variants")}>
            <ul>
              {r.choices.map((c) => (
                <li key={c.text}>
                  {told(c.text)}
                  {": "}
                  <b>{c.options.map((o) => told(o)).join(tr(" or "))}</b>
                  <Only when={c.when} />
                  {c.differ && (
                    <>
                      {" "}
                      <Link to={`/library/differ#${c.differ}`}>{tr("Where practitioners differ")}</Link>
                    </>
                  )}
                </li>
              ))}
            </ul>
          </Panel>
        )}
        {r.values.length > 0 && (
          <Panel title={tr("From nameplate and sheet")}>
            <Items items={r.values} />
          </Panel>
        )}
        <Panel title={tr("Parts, and what must match")}>
          <Items items={r.parts} />
        </Panel>
        <Panel title={tr("Tools and materials")}>
          <Words list={[...r.tools, ...r.materials]} />
        </Panel>
        {r.wear.length > 0 && (
          <Panel title={tr("Worn")}>
            <Words list={r.wear} />
          </Panel>
        )}
        <Panel title={tr("What is tightened")}>
          <ul>
            {r.groups.map((g) => (
              <li key={g.name}>
                <b>{told(g.name)}</b>
                {": "}
                {g.words.map((w) => told(w)).join("; ")}
                <Only when={g.when} />
              </li>
            ))}
          </ul>
        </Panel>
        {r.proofs.length > 0 && (
          <Panel title={tr("Proven before it is signed")}>
            <Words list={r.proofs} />
          </Panel>
        )}
        {r.mistakes.length > 0 && (
          <Panel kind="mind" title={tr("What goes wrong")}>
            <Words list={r.mistakes} />
          </Panel>
        )}
      </div>
      <SheetTable sheet={r.sheet} />
      {r.stations.map((s) => (
        <Steps key={s.name} station={s} />
      ))}
    </article>
  );
}

function Words({ list }: { list: string[] }) {
  return (
    <ul>
      {list.map((t) => (
        <li key={t}>{told(t)}</li>
      ))}
    </ul>
  );
}

function Items({ items }: { items: Recipe["parts"] }) {
  return (
    <ul>
      {items.map((i) => (
        <li key={i.name + i.when}>
          {told(i.name)}
          {i.note && (
            <span className="soft">
              {", "}
              {told(i.note)}
            </span>
          )}
          <Only when={i.when} />
        </li>
      ))}
    </ul>
  );
}
