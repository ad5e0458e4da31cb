-- +goose Up
-- What the meaning of the record rests on, as it was at each time: who somebody was and
-- what they might do, what a tool's plate and papers said, what a joint, its area and the
-- site were called, what a recipe said. Each state once, in a chain of its own. The server
-- before this one goes on working: what it adds without facts is entered when the next
-- one starts.
create table facts (
    number    integer primary key,
    kind      text not null check (kind in ('site', 'area', 'person', 'tool', 'joint', 'recipe')),
    subject   text not null,      -- an id, a tag, or a recipe's id and edition
    at        timestamptz not null,
    body      text not null,
    prev_hash bytea not null,     -- of the fact before, of whatever subject
    hash      bytea not null unique
);
create index facts_subject on facts (kind, subject, number desc);
create trigger facts_stay before update or delete on facts for each row execute function refuse_change();
create trigger facts_stay_all before truncate on facts for each statement execute function refuse_change();

-- The newest fact of a person, so that a commit can look whether it still holds.
alter table people add column fact bytea;

-- The hashes of the facts that an entry or a plan rests on, one after the other; null
-- where the server before this one stored it.
alter table entries add column rests bytea;
alter table plans add column rests bytea;

-- The keys that seals were made with; the private half never is in the database.
create table seal_keys (
    key     bytea primary key,
    made_at timestamptz not null
);
create trigger seal_keys_stay before update or delete on seal_keys for each row execute function refuse_change();
create trigger seal_keys_stay_all before truncate on seal_keys for each statement execute function refuse_change();

-- Heads of runs, signed. body is what is signed, byte for byte, and names the seal before.
create table seals (
    number    integer primary key,
    body      text not null,
    signature bytea not null,
    run       uuid,               -- whose record it seals; empty: it seals heads
    seq       integer
);
create index seals_run on seals (run, seq desc);
create trigger seals_stay before update or delete on seals for each row execute function refuse_change();
create trigger seals_stay_all before truncate on seals for each statement execute function refuse_change();

-- Up to where each run is sealed: a memory, so that only what is new is sealed.
create table sealed_heads (
    run uuid primary key references runs,
    seq integer not null,
    hash bytea not null
);

-- Signatures that wait for their seal are found without reading all entries.
create index entries_signed on entries (run, seq) where kind = 'signature';
