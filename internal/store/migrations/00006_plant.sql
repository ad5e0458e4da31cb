-- +goose Up
-- Who came in, who could not, what was refused, what went out. Only ever added to.
create table security_log (
    id      bigint generated always as identity primary key,
    at      timestamptz not null,
    kind    text not null,
    person  uuid,                     -- empty: nobody was signed in
    login   text not null default '', -- as it was typed
    address text not null default '',
    words   text not null default ''
);
create trigger security_log_stay before update or delete on security_log for each row execute function refuse_change();
create trigger security_log_stay_all before truncate on security_log for each statement execute function refuse_change();

-- Outages, one of which is the site's now.
create table outages (
    name   text primary key,
    begins date not null,
    days   integer not null
);
insert into outages select outage, begins, days from sites;

-- What the columns of files that joints come in from were matched to, by their headings.
create table import_columns (
    headings text primary key,
    columns  jsonb not null
);

-- The private addresses of calendars: who knows one reads what is due, and nothing else.
create table calendars (
    person  uuid primary key references people,
    token   text not null unique,     -- its SHA-256, hex
    made_at timestamptz not null
);
