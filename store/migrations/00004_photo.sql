-- +goose Up
-- Photographs that steps of jobs show: JPEG, by half of their SHA-256.
CREATE TABLE photo (
    id   TEXT PRIMARY KEY,
    jpeg BLOB NOT NULL,
    at   TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE photo;
