-- +goose Up
-- What a site says instead of the program's terms, by term and language; and the unit that
-- somebody types torques in, where it is not the site's: empty.
alter table sites add column glossary jsonb not null default '{}';
alter table people add column torque_unit text not null default '';

-- +goose Down
alter table sites drop column glossary;
alter table people drop column torque_unit;
