import { Button, Group } from "@mantine/core";
import { useState } from "react";
import { InBar } from "../app/Shell";
import { useSite } from "../api/queries";
import type { SitePerson } from "../api/types";
import { day } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { Areas, Outage, Rules } from "./Place";
import { Glossary } from "./Glossary";
import { Log } from "./Log";
import { OncePin, PersonDialog } from "./PersonDialog";
import { Security } from "./Security";
import classes from "./site.module.css";
import { told, tr } from "../words/words";

/** The site, for whoever keeps it: who works there and may do what, its areas and outage, and what was changed. */
export function Site() {
  const site = useSite();
  const [open, setOpen] = useState<SitePerson | "new">();
  const [pin, setPin] = useState<{ name: string; pin: string }>();
  const s = site.data;
  if (!s) return site.isError ? <Refusal error={site.error} /> : null;
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <main className={classes.site} tabIndex={0} aria-label={tr("Site")}>
      <InBar>
        <span>{tr("Site")}</span>
      </InBar>
      <section>
        <Group justify="space-between" mb={10}>
          <h1>{s.site.name}</h1>
          <Button color="now" onClick={() => setOpen("new")}>
            {tr("Enter somebody")}
          </Button>
        </Group>
        <ul className={classes.people}>
          {s.people.map((p) => (
            <li key={p.id}>
              <button
                type="button"
                className={classes.person}
                data-off={!p.active || undefined}
                data-login={p.login}
                onClick={() => setOpen(p)}
              >
                <span className={classes.who}>
                  <b>{p.name}</b>
                  <small>
                    {p.login}
                    {", "}
                    {p.initials}
                  </small>
                </span>
                <span className={classes.roles}>
                  {p.roles.map((r) => (
                    <i key={r}>{told(r)}</i>
                  ))}
                  {p.qualifications.length > 0 && <small>{p.qualifications.map(qualified).join(", ")}</small>}
                </span>
                <State person={p} />
              </button>
            </li>
          ))}
        </ul>
      </section>
      <aside className={classes.aside}>
        <Outage site={s.site} outages={s.outages} />
        <Areas areas={s.areas} />
        <Rules site={s.site} />
        <Glossary terms={s.terms} />
        <Panel title={tr("What was changed")} aside={tr("it only grows")}>
          <Log entries={s.log} />
        </Panel>
        <Security />
      </aside>
      {open && (
        <PersonDialog
          person={open === "new" ? undefined : open}
          roles={s.roles}
          onClose={() => setOpen(undefined)}
          onPin={(name, given) => {
            setOpen(undefined);
            setPin({ name, pin: given });
          }}
        />
      )}
      {pin && <OncePin {...pin} onClose={() => setPin(undefined)} />}
    </main>
  );
}

const qualified = (q: SitePerson["qualifications"][number]) =>
  q.until ? tr("{q} until {until}", { q: told(q.name), until: day(q.until) }) : told(q.name);

/** How it stands with somebody, by shape and word. */
function State({ person: p }: { person: SitePerson }) {
  const [kind, text] = !p.active
    ? ["off", tr("may not sign in")]
    : p.locked
      ? ["locked", tr("too many wrong PINs")]
      : p.once
        ? ["once", tr("PIN for one time")]
        : p.sessions > 0
          ? ["in", p.sessions > 1 ? tr("signed in on {count} devices", { count: p.sessions }) : tr("signed in")]
          : ["out", tr("signed out")];
  return (
    <span className={classes.state} data-kind={kind}>
      <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
        {kind === "off" && <path d="M3 3 L13 13 M13 3 L3 13" />}
        {kind === "locked" && <path d="M8 2 L15 14 H1 Z" />}
        {kind === "once" && <path d="M3 8 H13" />}
        {kind === "in" && <circle cx="8" cy="8" r="5" fill="currentColor" />}
        {kind === "out" && <circle cx="8" cy="8" r="5" />}
      </svg>
      {text}
    </span>
  );
}
