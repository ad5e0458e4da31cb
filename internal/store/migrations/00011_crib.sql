-- +goose Up
-- The crib. A tool of any kind; what its plate says beside the columns of before is in
-- plate. What follows from its life is kept beside it: held_back, calibrated, due,
-- checked_at, place, and where it is; life_seq and life_hash are those of its last entry.
alter table tools drop constraint tools_kind_check;
alter table tools
    add column plate      text not null default '',
    add column lent_to    uuid,                       -- a person; null: it is in the crib
    add column lent_joint text not null default '',   -- where they take it, its tag
    add column scrapped   text not null default '',   -- why; empty: it is there
    add column life_seq   integer not null default 0,
    add column life_hash  bytea;

-- The life of each tool: only ever added to. hash covers all of the row and the hash of
-- the entry before; the tool's fact names the last one.
create table tool_life (
    tool      text not null references tools,
    seq       integer not null,
    id        uuid not null unique,
    kind      text not null,
    happened  timestamptz not null,
    at_server timestamptz not null,
    person    uuid not null references people,
    body      text not null,
    rests     bytea,
    prev_hash bytea not null,
    hash      bytea not null,
    primary key (tool, seq)
);
create trigger tool_life_stay before update or delete on tool_life for each row execute function refuse_change();
create trigger tool_life_stay_all before truncate on tool_life for each statement execute function refuse_change();

-- What was made with a tool is found without reading all entries.
create index entries_pulls on entries (tools, at_tool) include (run) where kind = 'done' and tools <> '';
-- And so is what came to a record after it was signed.
create index entries_answers on entries (run, seq) where kind in ('report', 'answer', 're-check');

-- +goose Down
drop table tool_life;
drop index entries_pulls, entries_answers;
alter table tools drop column plate, drop column lent_to, drop column lent_joint, drop column scrapped, drop column life_seq,
    drop column life_hash;
