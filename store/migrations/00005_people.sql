-- +goose Up
-- Who may sign in. A password is an argon2id hash in the PHC format; sessions of an
-- earlier epoch are over.
CREATE TABLE person (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    login    TEXT NOT NULL UNIQUE COLLATE NOCASE,
    name     TEXT NOT NULL,
    role     TEXT NOT NULL CHECK (role IN ('reader', 'engineer', 'approver', 'administrator')),
    password TEXT NOT NULL,
    disabled INTEGER NOT NULL DEFAULT 0 CHECK (disabled IN (0, 1)),
    epoch    INTEGER NOT NULL DEFAULT 1,
    at       TEXT NOT NULL
) STRICT;

CREATE TABLE session (
    token  TEXT PRIMARY KEY,
    data   BLOB NOT NULL,
    expiry TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- What scripts show in place of a session: the SHA-256 of a token. It may no more than its role nor its person's, and ends as sessions do.
CREATE TABLE token (
    hash   TEXT PRIMARY KEY,
    person INTEGER NOT NULL REFERENCES person (id),
    role   TEXT NOT NULL,
    epoch  INTEGER NOT NULL,
    until  TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE INDEX session_expiry ON session (expiry);

-- What happened that somebody may be asked about. It only grows.
CREATE TABLE audit (
    seq    INTEGER PRIMARY KEY AUTOINCREMENT,
    at     TEXT NOT NULL,
    person INTEGER, -- NULL: nobody who is known
    who    TEXT NOT NULL,
    what   TEXT NOT NULL,
    about  TEXT NOT NULL
) STRICT;

-- +goose StatementBegin
CREATE TRIGGER audit_only_grows BEFORE UPDATE ON audit BEGIN SELECT RAISE(ABORT, 'the audit only grows'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER audit_keeps BEFORE DELETE ON audit BEGIN SELECT RAISE(ABORT, 'the audit only grows'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE audit;
DROP TABLE token;
DROP TABLE session;
DROP TABLE person;
