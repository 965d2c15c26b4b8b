-- +goose Up
CREATE TABLE plan (
    id         INTEGER PRIMARY KEY,
    rev        INTEGER NOT NULL DEFAULT 1,
    name       TEXT    NOT NULL,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    updated_at TEXT    NOT NULL,
    deleted_at TEXT
) STRICT;

-- +goose Down
DROP TABLE plan;
