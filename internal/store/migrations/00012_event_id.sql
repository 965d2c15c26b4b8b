-- +goose Up
CREATE INDEX bake_event_id ON bake_event (id);

-- +goose Down
DROP INDEX bake_event_id;
