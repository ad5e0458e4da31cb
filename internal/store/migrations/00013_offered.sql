-- +goose Up
-- What instruments read is offered to whoever measures, for some minutes.
create index tool_readings_offered on tool_readings (got desc) where verdict = 'offered';

-- +goose Down
drop index tool_readings_offered;
