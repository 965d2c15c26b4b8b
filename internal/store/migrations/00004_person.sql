-- +goose Up
CREATE TABLE person (
    id         INTEGER PRIMARY KEY,
    rev        INTEGER NOT NULL DEFAULT 1,
    name       TEXT    NOT NULL,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    deleted_at TEXT
) STRICT;

-- +goose Down
DROP TABLE person;
