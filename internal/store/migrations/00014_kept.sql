-- +goose Up
ALTER TABLE draft ADD COLUMN base INTEGER;                       -- rev of the recipe that it corrects
ALTER TABLE draft ADD COLUMN kept INTEGER REFERENCES recipe (id); -- what became of it
ALTER TABLE draft ADD COLUMN deleted_at TEXT;
ALTER TABLE own_ingredient ADD COLUMN deleted_at TEXT;
CREATE TABLE version_mark (
    version    INTEGER PRIMARY KEY REFERENCES version (id),
    name       TEXT NOT NULL DEFAULT '',
    note       TEXT NOT NULL DEFAULT '',
    deleted_at TEXT
) STRICT;
CREATE VIRTUAL TABLE version_fts USING fts5 (title, ingredients, tokenize = "unicode61 remove_diacritics 2");
INSERT INTO version_fts (rowid, title, ingredients)
SELECT id, title, (SELECT coalesce(group_concat(json_extract(value, '$.name'), ' '), '') FROM json_each(doc, '$.lines'))
FROM version WHERE result <> '{}';

-- +goose Down
DROP TABLE version_fts;
DROP TABLE version_mark;
ALTER TABLE own_ingredient DROP COLUMN deleted_at;
ALTER TABLE draft DROP COLUMN deleted_at;
ALTER TABLE draft DROP COLUMN kept;
ALTER TABLE draft DROP COLUMN base;
