-- +goose Up
-- The hash of each entry has that of the one before in it. Those before this migration have none; the first after it stands for them.
ALTER TABLE audit ADD COLUMN hash TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE audit DROP COLUMN hash;
