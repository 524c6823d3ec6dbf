-- +goose Up
-- The language that a person reads the page in; '': as their browser says.
ALTER TABLE person ADD COLUMN language TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE person DROP COLUMN language;
