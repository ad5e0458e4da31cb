-- +goose Up
-- What a site goes by: the unit its torques are typed in, its shifts, and whether a word goes
-- with every signature.
alter table sites add column torque_unit text not null default 'N·m';
alter table sites add column say_why boolean not null default false;
alter table sites add column shifts jsonb not null default '[]';
