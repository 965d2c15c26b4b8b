-- +goose Up
CREATE TABLE equipment (
    id         INTEGER PRIMARY KEY,
    rev        INTEGER NOT NULL DEFAULT 1,
    kind       TEXT    NOT NULL CHECK (kind IN ('oven', 'tin')),
    name       TEXT    NOT NULL,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    deleted_at TEXT
) STRICT;

-- +goose Down
DROP TABLE equipment;
