-- +goose Up
-- A second factor beside the password: the secret of an authenticator (RFC 6238, base32; '': none), and passkeys, as JSON. Where changes of
-- the account are told: a mail address, or ''.
ALTER TABLE person ADD COLUMN mail TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN totp TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN passkeys TEXT NOT NULL DEFAULT '[]';

-- Whose a session is; 0: it is no person's, as on the way to the identity provider.
ALTER TABLE session ADD COLUMN person INTEGER NOT NULL DEFAULT 0;
CREATE INDEX session_person ON session (person);

-- Mails about accounts, written with the change that they tell of, until they are sent.
CREATE TABLE outbox (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    at      TEXT NOT NULL,
    mail    TEXT NOT NULL,
    subject TEXT NOT NULL,
    text    TEXT NOT NULL
) STRICT;

-- Tokens have a number and a name, say what they are for (acts, with commas between them; '': all that their role may), and when they were
-- last used.
ALTER TABLE token RENAME TO token_before;
CREATE TABLE token (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    hash   TEXT NOT NULL UNIQUE,
    person INTEGER NOT NULL REFERENCES person (id),
    name   TEXT NOT NULL,
    role   TEXT NOT NULL,
    acts   TEXT NOT NULL,
    epoch  INTEGER NOT NULL,
    at     TEXT NOT NULL,
    until  TEXT NOT NULL,
    used   TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO token (hash, person, name, role, acts, epoch, at, until) SELECT hash, person, '', role, '', epoch, '', until FROM token_before;
DROP TABLE token_before;

-- +goose Down
ALTER TABLE token RENAME TO token_after;
CREATE TABLE token (
    hash   TEXT PRIMARY KEY,
    person INTEGER NOT NULL REFERENCES person (id),
    role   TEXT NOT NULL,
    epoch  INTEGER NOT NULL,
    until  TEXT NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO token SELECT hash, person, role, epoch, until FROM token_after;
DROP TABLE token_after;
DROP TABLE outbox;
DROP INDEX session_person;
ALTER TABLE session DROP COLUMN person;
ALTER TABLE person DROP COLUMN passkeys;
ALTER TABLE person DROP COLUMN totp;
ALTER TABLE person DROP COLUMN mail;
