-- +goose Up
-- The makers' own sheets: files by the SHA-256 of their bytes, and where each hangs: at a recipe or a joint, at one of its
-- steps, opened at a page. What is taken off stays, with who took it off and when. Only ever added to.
create table papers (
    hash    text primary key check (hash ~ '^[0-9a-f]{64}$'),
    type    text not null check (type in ('application/pdf', 'image/jpeg', 'image/png')),
    bytes   bytea not null,
    person  uuid not null references people,
    at      timestamptz not null
);
create table hung_papers (
    id      uuid primary key,
    hash    text not null references papers,
    title   text not null check (title <> ''),
    recipe  text,
    joint   uuid references joints,
    step    text not null,
    page    integer not null check (page >= 0),
    person  uuid not null references people,
    at      timestamptz not null,
    check ((recipe is null) <> (joint is null))
);
create index on hung_papers (joint);
create index on hung_papers (recipe);
create table taken_off (
    paper   uuid primary key references hung_papers,
    person  uuid not null references people,
    at      timestamptz not null
);
create trigger papers_stay before update or delete on papers for each row execute function refuse_change();
create trigger papers_stay_all before truncate on papers for each statement execute function refuse_change();
create trigger hung_papers_stay before update or delete on hung_papers for each row execute function refuse_change();
create trigger hung_papers_stay_all before truncate on hung_papers for each statement execute function refuse_change();
create trigger taken_off_stay before update or delete on taken_off for each row execute function refuse_change();
create trigger taken_off_stay_all before truncate on taken_off for each statement execute function refuse_change();
