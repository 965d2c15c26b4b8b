-- +goose Up
CREATE INDEX recipe_kind ON recipe (kind) WHERE deleted_at IS NULL; -- which kinds there are
CREATE INDEX recipe_away ON recipe (deleted_at) WHERE deleted_at IS NOT NULL;

-- +goose Down
DROP INDEX recipe_kind;
DROP INDEX recipe_away;
