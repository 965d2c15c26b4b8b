-- +goose Up
CREATE TABLE bake_log (
    bake    INTEGER NOT NULL REFERENCES bake (id),
    strip   INTEGER NOT NULL,
    recipe  INTEGER NOT NULL,
    title   TEXT    NOT NULL,
    at      TEXT    NOT NULL,
    overall INTEGER NOT NULL,
    words   TEXT    NOT NULL,
    tried   TEXT    NOT NULL,
    helped  TEXT    NOT NULL CHECK (json_valid(helped)),
    PRIMARY KEY (bake, strip)
) STRICT;
CREATE INDEX bake_log_recipe ON bake_log (recipe, at);

-- +goose Down
DROP TABLE bake_log;
