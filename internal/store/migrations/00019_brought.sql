-- +goose Up
CREATE TABLE brought ( -- files that were brought in together
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    at    TEXT    NOT NULL,
    found INTEGER NOT NULL DEFAULT 0, -- recipes and files that cannot be read, of which those below are told of
    lost  TEXT    NOT NULL DEFAULT '[]' CHECK (json_valid(lost)) -- files that could not be read, with why
) STRICT;
ALTER TABLE draft ADD COLUMN brought INTEGER REFERENCES brought (id); -- NULL for one that was typed
ALTER TABLE draft ADD COLUMN seen TEXT NOT NULL DEFAULT '{}'; -- what was found when it was brought

-- +goose Down
ALTER TABLE draft DROP COLUMN seen;
ALTER TABLE draft DROP COLUMN brought;
DROP TABLE brought;
