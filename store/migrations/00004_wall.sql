-- +goose Up
-- Photographs that steps of jobs show: JPEG, by half of their SHA-256.
CREATE TABLE photo (
    id   TEXT PRIMARY KEY,
    jpeg BLOB NOT NULL,
    at   TEXT NOT NULL
) STRICT;

-- What was ticked at the wall, beside the jobs: who works on a job at a desk is not
-- told that somebody else has changed it.
CREATE TABLE tick (
    job  TEXT NOT NULL,
    step TEXT NOT NULL,
    at   TEXT NOT NULL, -- '': not done any more
    PRIMARY KEY (job, step)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE tick;
DROP TABLE photo;
