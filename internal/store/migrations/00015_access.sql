-- +goose Up
CREATE TABLE access (                -- who may come in from other machines
    id         INTEGER PRIMARY KEY CHECK (id = 1),
    passphrase TEXT NOT NULL,        -- argon2id, as a PHC string
    guest      BLOB,                 -- SHA-256 of the guests' token, NULL for none
    made_at    TEXT NOT NULL
) STRICT;
CREATE TABLE session (
    token    BLOB PRIMARY KEY,       -- SHA-256 of what the cookie holds
    guest    INTEGER NOT NULL,
    from_at  TEXT NOT NULL,          -- the address that it was made from
    made_at  TEXT NOT NULL,
    seen_at  TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE session;
DROP TABLE access;
