-- +goose Up
-- Of which joints the acts are that wait on a device: where it is lost, their records say so.
alter table devices add column waiting jsonb not null default '[]';

-- +goose Down
alter table devices drop column waiting;
