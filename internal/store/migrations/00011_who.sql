-- +goose Up
ALTER TABLE bake_log ADD COLUMN who TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE bake_log DROP COLUMN who;
