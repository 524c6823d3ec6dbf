-- +goose Up
-- The browsers that somebody has signed in with: the SHA-256 of a cookie. Guesses of others do not keep them out. Another password ends it.
CREATE TABLE browser (
    hash   TEXT NOT NULL,
    person INTEGER NOT NULL REFERENCES person (id),
    epoch  INTEGER NOT NULL,
    until  TEXT NOT NULL,
    PRIMARY KEY (hash, person)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE browser;
