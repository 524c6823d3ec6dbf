-- +goose Up
-- The password was given by somebody else, and is to be changed before anything is done with it.
ALTER TABLE person ADD COLUMN given INTEGER NOT NULL DEFAULT 0 CHECK (given IN (0, 1));

-- +goose Down
ALTER TABLE person DROP COLUMN given;
