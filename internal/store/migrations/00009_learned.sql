-- +goose Up
ALTER TABLE bake_log ADD COLUMN seen TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(seen));

CREATE TABLE learned_spoonful (
    id   INTEGER PRIMARY KEY,
    at   TEXT NOT NULL,
    seen TEXT NOT NULL CHECK (json_valid(seen))
) STRICT;

CREATE TABLE learned_forgotten (
    kind TEXT NOT NULL,
    key  TEXT NOT NULL,
    at   TEXT NOT NULL,
    PRIMARY KEY (kind, key)
) STRICT;

-- +goose Down
DROP TABLE learned_forgotten;
DROP TABLE learned_spoonful;
ALTER TABLE bake_log DROP COLUMN seen;
