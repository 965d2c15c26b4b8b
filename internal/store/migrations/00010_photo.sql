-- +goose Up
CREATE TABLE photo (
    id         INTEGER PRIMARY KEY,
    bake       INTEGER NOT NULL REFERENCES bake (id),
    strip      INTEGER NOT NULL,
    at         TEXT    NOT NULL,
    words      TEXT    NOT NULL,
    width      INTEGER NOT NULL,
    height     INTEGER NOT NULL,
    large      BLOB    NOT NULL,
    small      BLOB    NOT NULL,
    deleted_at TEXT
) STRICT;
CREATE INDEX photo_bake ON photo (bake, strip);

-- +goose Down
DROP TABLE photo;
