-- +goose Up
-- Goes at drills, each of one person and for their eyes alone. What its tasks are drawn from is kept until it ends.
create table drill_goes (
    id       uuid primary key,
    person   uuid not null references people,
    kind     text not null,
    seed     bigint not null,      -- of its first task
    material text not null,        -- JSON; empty: it ended
    begun_at timestamptz not null,
    ended_at timestamptz,          -- null: it has not
    held     int not null default 0, -- tasks that were answered right
    tasks    int not null
);
create index drill_goes_of on drill_goes (person, kind, ended_at);

-- Drills that are passed before a kind of joint is made.
create table drills_asked (
    recipe text not null,
    kind   text not null,
    months int not null,           -- for which it holds
    by     uuid not null references people,
    at     timestamptz not null,
    primary key (recipe, kind)
);

-- +goose Down
drop table drills_asked;
drop table drill_goes;
