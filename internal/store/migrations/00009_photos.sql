-- +goose Up
-- Photographs, by the SHA-256 of their bytes; entries name them by it. Only ever added to.
create table photos (
    hash    text primary key check (hash ~ '^[0-9a-f]{64}$'),
    type    text not null check (type in ('image/jpeg', 'image/png')),
    bytes   bytea not null,
    width   integer not null,
    height  integer not null,
    person  uuid not null references people,
    at      timestamptz not null
);
create trigger photos_stay before update or delete on photos for each row execute function refuse_change();
create trigger photos_stay_all before truncate on photos for each statement execute function refuse_change();
