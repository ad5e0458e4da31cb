-- +goose Up
-- Joints of every kind: the recipe that leads a joint (empty: the ring planner),
-- and what kind of plan a draft or a plan is.
alter table joints add column recipe text not null default '';
alter table drafts add column form text not null default 'ring' check (form in ('ring', 'recipe'));
alter table plans add column form text not null default 'ring' check (form in ('ring', 'recipe'));
alter table people add column qualifications text[] not null default '{}';

-- Editions of recipes: only ever added to, so that a plan's recipe stays what
-- it was. made_by is empty for those that ship with the product.
create table recipes (
    id      text not null,
    edition integer not null,
    body    text not null,
    made_by uuid references people,
    made_at timestamptz not null,
    primary key (id, edition)
);

-- Recipes that new joints are no longer made by.
create table retired_recipes (
    id         text primary key,
    retired_by uuid not null references people,
    retired_at timestamptz not null,
    reason     text not null
);

create trigger recipes_stay before update or delete on recipes for each row execute function refuse_change();
create trigger recipes_stay_all before truncate on recipes for each statement execute function refuse_change();

-- +goose Down
drop table retired_recipes, recipes;
alter table people drop column qualifications;
alter table plans drop column form;
alter table drafts drop column form;
alter table joints drop column recipe;
