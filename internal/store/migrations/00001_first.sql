-- +goose Up
CREATE TABLE household (
    id  INTEGER PRIMARY KEY CHECK (id = 1),
    rev INTEGER NOT NULL DEFAULT 1,
    doc TEXT    NOT NULL CHECK (json_valid(doc))
) STRICT;

CREATE TABLE recipe (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    rev        INTEGER NOT NULL DEFAULT 1,
    title      TEXT    NOT NULL,
    kind       TEXT    NOT NULL,
    head       INTEGER REFERENCES version (id), -- the written version shown
    created_at TEXT    NOT NULL,
    updated_at TEXT    NOT NULL,
    deleted_at TEXT
) STRICT;

CREATE TABLE version (
    id          INTEGER PRIMARY KEY AUTOINCREMENT,
    recipe      INTEGER NOT NULL REFERENCES recipe (id),
    parent      INTEGER REFERENCES version (id), -- what it was adapted or corrected from
    n           INTEGER NOT NULL,
    title       TEXT    NOT NULL,
    schema      INTEGER NOT NULL,
    doc         TEXT    NOT NULL CHECK (json_valid(doc)), -- the recipe
    source_text TEXT    NOT NULL DEFAULT '',
    reading     TEXT    NOT NULL DEFAULT '{}' CHECK (json_valid(reading)), -- fixes and facts typed over the text
    request     TEXT    NOT NULL DEFAULT '',                               -- '' for a written version
    result      TEXT    NOT NULL DEFAULT '{}' CHECK (json_valid(result)),
    engine      TEXT    NOT NULL, -- version of the program
    catalogue   TEXT    NOT NULL, -- hash of the data it was worked out with
    created_at  TEXT    NOT NULL,
    UNIQUE (recipe, n)
) STRICT;

CREATE INDEX version_recipe ON version (recipe, n);

-- +goose StatementBegin
CREATE TRIGGER version_is_kept BEFORE UPDATE ON version
BEGIN
    SELECT RAISE(ABORT, 'a kept version never changes');
END;
-- +goose StatementEnd

CREATE TABLE draft (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    rev        INTEGER NOT NULL DEFAULT 1,
    recipe     INTEGER REFERENCES recipe (id), -- NULL for a new one
    text       TEXT    NOT NULL,
    doc        TEXT    NOT NULL CHECK (json_valid(doc)),
    updated_at TEXT    NOT NULL
) STRICT;

CREATE TABLE phrase (
    phrase     TEXT PRIMARY KEY,
    ingredient TEXT NOT NULL
) STRICT;

CREATE VIRTUAL TABLE recipe_fts USING fts5 (title, ingredients, tokenize = "unicode61 remove_diacritics 2");

-- +goose Down
DROP TABLE recipe_fts;
DROP TABLE phrase;
DROP TABLE draft;
DROP TRIGGER version_is_kept;
DROP TABLE version;
DROP TABLE recipe;
DROP TABLE household;
