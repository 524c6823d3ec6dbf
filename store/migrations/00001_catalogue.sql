-- +goose Up
-- A display or bracket is kept as its document in the exchange format, the
-- one form that loses nothing; the columns beside it are for finding it.
CREATE TABLE display (
    id         TEXT PRIMARY KEY,
    maker      TEXT NOT NULL,
    model      TEXT NOT NULL,
    doc        TEXT NOT NULL,
    changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE bracket (
    id         TEXT PRIMARY KEY,
    name       TEXT NOT NULL,
    revision   TEXT NOT NULL,
    doc        TEXT NOT NULL,
    changed_at TEXT NOT NULL
) STRICT;

-- A saved pairing keeps what it was computed from, so that it can be opened
-- as it was whatever has become of the display or the bracket since.
CREATE TABLE pairing (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    display_id TEXT NOT NULL REFERENCES display (id),
    bracket_id TEXT NOT NULL REFERENCES bracket (id),
    title      TEXT NOT NULL,
    verdict    TEXT NOT NULL,
    question   TEXT NOT NULL,
    result     TEXT NOT NULL,
    saved_at   TEXT NOT NULL,
    removed_at TEXT
) STRICT;

CREATE INDEX pairing_saved ON pairing (saved_at);

-- +goose Down
DROP TABLE pairing;
DROP TABLE bracket;
DROP TABLE display;
