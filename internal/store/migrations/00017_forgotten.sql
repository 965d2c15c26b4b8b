-- +goose Up
ALTER TABLE phrase ADD COLUMN deleted_at TEXT;
ALTER TABLE remembered_amount ADD COLUMN deleted_at TEXT;

-- +goose Down
ALTER TABLE remembered_amount DROP COLUMN deleted_at;
ALTER TABLE phrase DROP COLUMN deleted_at;
