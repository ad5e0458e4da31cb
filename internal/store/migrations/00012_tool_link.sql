-- +goose Up
-- Tools that speak. A key lets a tool sign in: the hash of it is kept, and when it was
-- last heard.
create table tool_links (
    tool    text primary key references tools,
    key     bytea not null,                     -- SHA-256
    made_at timestamptz not null,
    made_by uuid not null references people,
    seen    timestamptz
);

-- What tools read, each under its own identity. What became a pull is an entry of the run
-- under the same; the trace is what that entry names by its hash.
create table tool_readings (
    id      uuid primary key,
    tool    text not null references tools,
    at_tool timestamptz not null,
    got     timestamptz not null,
    value   double precision not null,
    unit    text not null,
    angle   double precision,                   -- degrees; null: it was not read
    trace   text not null default '',           -- as JSON, pairs of angle and value
    run     uuid references runs,
    target  text not null default '',
    verdict text not null,
    says    text not null default ''
);
create index tool_readings_run on tool_readings (run) where verdict in ('waits', 'past');
create index tool_readings_tool on tool_readings (tool, got desc);

-- Lines that were none, for whoever keeps the crib.
create table tool_lines (
    tool text not null references tools,
    at   timestamptz not null,
    says text not null,
    line text not null,
    more integer not null default 0             -- how many like it followed
);
create index tool_lines_tool on tool_lines (tool, at desc);

-- Who has a tool in the hand, and where, is said by the newest setting of it.
create index entries_hand on entries (split_part(tools, ' + ', 1), at_server desc) where kind = 'setting' and tools <> '';

-- +goose Down
drop index entries_hand;
drop table tool_lines, tool_readings, tool_links;
