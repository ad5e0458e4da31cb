-- +goose Up
-- When an entry was made by the clock of its device, where that was known to be off:
-- at_tool is mended then, and both are kept.
alter table entries add column at_device timestamptz;
