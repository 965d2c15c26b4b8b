-- +goose Up
CREATE TABLE bake (
    id         INTEGER PRIMARY KEY,
    name       TEXT    NOT NULL,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    begun_at   TEXT    NOT NULL,
    over_at    TEXT,
    deleted_at TEXT
) STRICT;

CREATE TABLE bake_event (
    seq  INTEGER PRIMARY KEY AUTOINCREMENT,
    bake INTEGER NOT NULL REFERENCES bake (id),
    id   TEXT    NOT NULL,
    doc  TEXT    NOT NULL CHECK (json_valid(doc)),
    UNIQUE (bake, id)
) STRICT;

-- +goose StatementBegin
CREATE TRIGGER bake_event_stays BEFORE UPDATE ON bake_event
BEGIN
    SELECT raise(ABORT, 'what happened at the counter never changes');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER bake_event_never_goes BEFORE DELETE ON bake_event
BEGIN
    SELECT raise(ABORT, 'what happened at the counter never goes');
END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE bake_event;
DROP TABLE bake;
