-- +goose Up
CREATE TABLE remembered_amount (
    measure TEXT PRIMARY KEY,
    grams   REAL NOT NULL CHECK (grams > 0)
) STRICT;

-- +goose Down
DROP TABLE remembered_amount;
