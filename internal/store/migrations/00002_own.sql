-- +goose Up
-- A site's own figures: lubricants with the trial or test they rest on, gaskets by their
-- makers' sheets, certificates of lots of bolts. Editions are only ever added to; the
-- newest of a name counts, and a withdrawn one says why.
create table own_figures (
    kind      text not null check (kind in ('lubricant', 'gasket', 'certificate')),
    name      text not null,
    edition   integer not null,
    body      jsonb not null,
    made_by   uuid not null references people,
    made_at   timestamptz not null,
    expires   date,                          -- last day it may be used; empty: no end
    withdrawn text not null default '',      -- why; empty: it may be used
    primary key (kind, name, edition)
);
