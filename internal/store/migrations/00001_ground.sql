-- +goose Up
create table sites (
    name     text primary key,
    outage   text not null,
    begins   date not null,
    days     integer not null
);

create table areas (
    id       uuid primary key,
    name     text not null unique,
    position integer not null
);

create table people (
    id             uuid primary key,
    login          text not null unique,
    name           text not null,
    initials       text not null,
    pin_hash       text not null,
    roles          text[] not null,
    qualifications text[] not null default '{}', -- what a step of a recipe may ask for, beside a role
    active         boolean not null default true
);

-- Failed sign-ins and PINs, to slow down whoever guesses.
create table failed_pins (
    login text not null,
    at    timestamptz not null
);
create index failed_pins_login on failed_pins (login, at);

create table sessions (
    token  text primary key,
    person uuid not null references people,
    expiry timestamptz not null
);
create index sessions_expiry on sessions (expiry);

-- The crib. checked_at is the last good check of a tool after it was held back.
create table tools (
    tag        text primary key,
    kind       text not null check (kind in ('wrench', 'multiplier')),
    name       text not null,
    unit       text not null default '',
    rated_min  double precision not null default 0,
    rated_max  double precision not null default 0, -- of a multiplier: its output, N·m
    first      double precision not null default 0,
    major      double precision not null default 0,
    minor      double precision not null default 0,
    ratio      double precision not null default 0,
    drive_in   text not null default '',
    drive_out  text not null default '',
    length     double precision not null default 0,
    accuracy   double precision not null,
    calibrated date,
    due        date,
    held_back  text not null default '',            -- why; empty: it may be used
    checked_at timestamptz,
    place      text not null default ''
);

-- Editions of recipes: only ever added to, so that a plan's recipe stays what
-- it was. made_by is empty for those that ship with the product.
create table recipes (
    id      text not null,
    edition integer not null,
    body    text not null,
    made_by uuid references people,
    made_at timestamptz not null,
    primary key (id, edition)
);

-- Recipes that new joints are no longer made by.
create table retired_recipes (
    id         text primary key,
    retired_by uuid not null references people,
    retired_at timestamptz not null,
    reason     text not null
);

-- Joints, each led by a recipe.
create table joints (
    id         uuid primary key,
    area       uuid not null references areas,
    tag        text not null unique,
    title      text not null,
    recipe     text not null,
    assigned   uuid references people,
    made_at    timestamptz not null
);

-- The one draft of a joint, overwritten as its sentence changes.
create table drafts (
    joint      uuid primary key references joints,
    version    integer not null,
    input      text not null,
    changed_by uuid not null references people,
    changed_at timestamptz not null
);

-- Issued plans: never changed. hash covers all of the row.
create table plans (
    joint        uuid not null references joints,
    revision     integer not null,
    input        text not null,
    result       text not null,
    core_version text not null,
    reason       text not null,
    issued_by    uuid not null references people,
    issued_at    timestamptz not null,
    hash         bytea not null,
    primary key (joint, revision)
);

-- A run follows one plan. head_seq and head_hash are those of its last entry;
-- a run without entries has its plan's hash. Its head moves with each entry, so
-- there is room beside it on its page.
create table runs (
    id        uuid primary key,
    joint     uuid not null,
    revision  integer not null,
    begun_at  timestamptz not null,
    head_seq  integer not null default 0,
    head_hash bytea not null,
    closed    boolean not null default false, -- a newer revision was issued
    foreign key (joint, revision) references plans,
    unique (joint, revision)
) with (fillfactor = 50);

-- What the Wall shows of a run, folded up to seq: a memory, which may be behind
-- and can be made anew.
create table cards (
    run  uuid primary key references runs,
    seq  integer not null,
    card text not null
);

-- The record: only ever added to. hash covers all of the row and the hash of
-- the entry before.
create table entries (
    run       uuid not null references runs,
    seq       integer not null,
    id        uuid not null unique,
    kind      text not null,
    at_tool   timestamptz not null,
    at_server timestamptz not null,
    person    uuid not null references people,
    confirmed boolean not null,
    tools     text not null,
    body      text not null,
    prev_hash bytea not null,
    hash      bytea not null,
    primary key (run, seq)
);

-- +goose StatementBegin
create function refuse_change() returns trigger language plpgsql as $$
begin
    raise exception '% is only ever added to; % is refused', tg_table_name, lower(tg_op)
        using errcode = 'restrict_violation';
end $$;
-- +goose StatementEnd

create trigger entries_stay before update or delete on entries for each row execute function refuse_change();
create trigger entries_stay_all before truncate on entries for each statement execute function refuse_change();
create trigger plans_stay before update or delete on plans for each row execute function refuse_change();
create trigger plans_stay_all before truncate on plans for each statement execute function refuse_change();
create trigger runs_stay before delete on runs for each row execute function refuse_change();
create trigger recipes_stay before update or delete on recipes for each row execute function refuse_change();
create trigger recipes_stay_all before truncate on recipes for each statement execute function refuse_change();

-- +goose Down
drop table entries, cards, runs, plans, drafts, joints, retired_recipes, recipes, tools, sessions, failed_pins, people, areas, sites;
drop function refuse_change;
