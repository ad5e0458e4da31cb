-- +goose Up
-- Checks of a lot on the days it is worked with: a few bolts against what its trial found.
-- They and the editions of the site's own figures are only ever added to.
create table lot_checks (
    id       bigint generated always as identity primary key,
    name     text not null,              -- of the lubricant
    body     jsonb not null,             -- the readings
    k        double precision not null,  -- their mean nut factor
    holds    boolean not null,
    made_by  uuid not null references people,
    made_at  timestamptz not null
);
create index on lot_checks (name, made_at desc);
create trigger lot_checks_stay before update or delete on lot_checks for each row execute function refuse_change();
create trigger lot_checks_stay_all before truncate on lot_checks for each statement execute function refuse_change();
create trigger own_figures_stay before update or delete on own_figures for each row execute function refuse_change();
create trigger own_figures_stay_all before truncate on own_figures for each statement execute function refuse_change();
