-- +goose Up
-- The fourth, fifth and sixth migration were edited after they had landed: databases that had run them before lack what was added.
CREATE TABLE IF NOT EXISTS tick (
    job  TEXT NOT NULL,
    step TEXT NOT NULL,
    at   TEXT NOT NULL, -- '': not done any more
    PRIMARY KEY (job, step)
) STRICT, WITHOUT ROWID;

CREATE TABLE IF NOT EXISTS token (
    hash   TEXT PRIMARY KEY,
    person INTEGER NOT NULL REFERENCES person (id),
    role   TEXT NOT NULL,
    epoch  INTEGER NOT NULL,
    until  TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE IF NOT EXISTS letter (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    issued  INTEGER NOT NULL REFERENCES issued (id),
    recall  INTEGER NOT NULL CHECK (recall IN (0, 1)),
    mail    TEXT NOT NULL,
    subject TEXT NOT NULL,
    text    TEXT NOT NULL,
    at      TEXT NOT NULL,
    person  INTEGER NOT NULL,
    who     TEXT NOT NULL
) STRICT;

CREATE INDEX IF NOT EXISTS letter_of ON letter (issued);

-- +goose StatementBegin
CREATE TRIGGER IF NOT EXISTS letter_stays BEFORE DELETE ON letter BEGIN SELECT RAISE(ABORT, 'letters are kept'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER IF NOT EXISTS letter_is_kept BEFORE UPDATE ON letter BEGIN SELECT RAISE(ABORT, 'letters are kept'); END;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
