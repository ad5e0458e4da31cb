-- +goose Up
-- The language somebody reads, and how numbers and dates go there, as "de-AT"; empty: nobody has said.
alter table people add column locale text not null default '';

-- +goose Down
alter table people drop column locale;
