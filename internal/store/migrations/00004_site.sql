-- +goose Up
-- What an administrator keeps: one-time PINs, until when a qualification holds, and a log
-- of every change that only grows. The server before this one goes on working on it: it
-- sees neither the new columns nor the log.
alter table people add column pin_once boolean not null default false; -- to be replaced when it is first used
alter table people add column qualified_until jsonb not null default '{}'; -- last day by qualification; left out: no end
-- A wrong PIN at the sign-in keeps nobody who is signed in from signing.
alter table failed_pins add column address text not null default '';
alter table failed_pins add column signing boolean not null default false;
create index failed_pins_address on failed_pins (address, at);
create table site_log (
    id      bigint generated always as identity primary key,
    at      timestamptz not null,
    by      uuid references people, -- empty: the command line
    kind    text not null,
    subject text not null,          -- whom or what it is about
    words   text not null
);
create trigger site_log_stay before update or delete on site_log for each row execute function refuse_change();
create trigger site_log_stay_all before truncate on site_log for each statement execute function refuse_change();
