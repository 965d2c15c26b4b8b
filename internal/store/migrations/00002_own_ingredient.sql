-- +goose Up
CREATE TABLE own_ingredient (
    id         TEXT    PRIMARY KEY,
    rev        INTEGER NOT NULL DEFAULT 1,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    updated_at TEXT    NOT NULL
) STRICT;

-- +goose Down
DROP TABLE own_ingredient;
