-- +goose Up
CREATE TABLE tasting (
    id         INTEGER PRIMARY KEY,
    at         TEXT    NOT NULL,
    name       TEXT    NOT NULL,
    "right"    INTEGER NOT NULL,
    tasters    INTEGER NOT NULL CHECK (tasters > 0 AND "right" BETWEEN 0 AND tasters),
    deleted_at TEXT
) STRICT;

-- +goose Down
DROP TABLE tasting;
