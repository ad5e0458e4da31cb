-- +goose Up
-- What devices last said of themselves: what waits on them, and what they took along. Overwritten.
create table devices (
    id     uuid primary key,             -- the device's own
    person uuid not null references people,
    name   text not null,                -- what is written on it; empty: nobody has said
    acts   int not null,                 -- that waited on it to be stored
    since  timestamptz,                  -- when the oldest of them was done; null: none waits
    joints uuid[] not null,              -- that it took along
    seen   timestamptz not null
);

-- +goose Down
drop table devices;
