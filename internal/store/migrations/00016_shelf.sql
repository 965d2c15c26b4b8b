-- +goose Up
CREATE INDEX recipe_shelf ON recipe (updated_at DESC, id DESC, title, kind) WHERE deleted_at IS NULL; -- the shelf in its order

-- +goose Down
DROP INDEX recipe_shelf;
