-- +goose Up
-- Everything that is kept as a document of the exchange format is an item:
-- displays, brackets, policies by name, jobs, and which policy is in use. An
-- item has a revision, and every revision it ever had is kept with who, when
-- and why. What was taken out has no item, but its revisions stay.
CREATE TABLE item (
    kind     TEXT NOT NULL CHECK (kind IN ('display', 'bracket', 'policy', 'use', 'job')),
    id       TEXT NOT NULL,
    sort     TEXT NOT NULL,
    doc      TEXT NOT NULL,
    revision INTEGER NOT NULL,
    PRIMARY KEY (kind, id)
) STRICT, WITHOUT ROWID;

CREATE INDEX item_sorted ON item (kind, sort, id);

-- What was changed together, and can be undone together.
CREATE TABLE batch (
    id        INTEGER PRIMARY KEY AUTOINCREMENT,
    what      TEXT NOT NULL,
    who       TEXT NOT NULL,
    at        TEXT NOT NULL,
    undone_by INTEGER REFERENCES batch (id)
) STRICT;

CREATE TABLE revision (
    seq    INTEGER PRIMARY KEY AUTOINCREMENT,
    kind   TEXT NOT NULL,
    id     TEXT NOT NULL,
    number INTEGER NOT NULL,
    doc    TEXT, -- NULL: taken out
    who    TEXT NOT NULL,
    why    TEXT NOT NULL,
    at     TEXT NOT NULL,
    batch  INTEGER REFERENCES batch (id),
    UNIQUE (kind, id, number)
) STRICT;

CREATE INDEX revision_batch ON revision (batch) WHERE batch IS NOT NULL;

-- How the columns of people's files were understood: a head as it is written,
-- and the field it was put in.
CREATE TABLE column_meaning (
    kind  TEXT NOT NULL,
    head  TEXT NOT NULL,
    field TEXT NOT NULL,
    PRIMARY KEY (kind, head)
) STRICT, WITHOUT ROWID;

INSERT INTO item SELECT 'display', id, maker || char(9) || model, doc, 1 FROM display;
INSERT INTO item SELECT 'bracket', id, name, doc, 1 FROM bracket;
INSERT INTO item SELECT 'policy', name, name, doc, 1 FROM policy;
INSERT INTO item SELECT 'use', 'policy', '', json_quote(name), 1 FROM policy WHERE in_use = 1;
INSERT INTO revision (kind, id, number, doc, who, why, at)
    SELECT kind, id, 1, doc, '', 'Before changes were kept.', strftime('%Y-%m-%dT%H:%M:%fZ') FROM item;

-- A saved pairing keeps what it was computed from: it does not need the
-- display or the bracket to be there still.
CREATE TABLE saved (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    display_id TEXT NOT NULL,
    bracket_id TEXT NOT NULL,
    title      TEXT NOT NULL,
    verdict    TEXT NOT NULL,
    question   TEXT NOT NULL,
    result     TEXT NOT NULL,
    saved_at   TEXT NOT NULL,
    removed_at TEXT
) STRICT;
INSERT INTO saved SELECT id, display_id, bracket_id, title, verdict, question, result, saved_at, removed_at FROM pairing;
DROP TABLE pairing;
ALTER TABLE saved RENAME TO pairing;
CREATE INDEX pairing_saved ON pairing (saved_at);
DROP TABLE policy;
DROP TABLE bracket;
DROP TABLE display;

-- +goose Down
CREATE TABLE display (id TEXT PRIMARY KEY, maker TEXT NOT NULL, model TEXT NOT NULL, doc TEXT NOT NULL, changed_at TEXT NOT NULL) STRICT;
CREATE TABLE bracket (id TEXT PRIMARY KEY, name TEXT NOT NULL, revision TEXT NOT NULL, doc TEXT NOT NULL, changed_at TEXT NOT NULL) STRICT;
CREATE TABLE policy (name TEXT PRIMARY KEY, doc TEXT NOT NULL, in_use INTEGER NOT NULL DEFAULT 0 CHECK (in_use IN (0, 1)), changed_at TEXT NOT NULL) STRICT;
CREATE UNIQUE INDEX policy_in_use ON policy (in_use) WHERE in_use = 1;
INSERT INTO display SELECT id, coalesce(doc ->> 'maker', ''), coalesce(doc ->> 'model', ''), doc, '' FROM item WHERE kind = 'display';
INSERT INTO bracket SELECT id, coalesce(doc ->> 'name', ''), coalesce(doc ->> 'revision', ''), doc, '' FROM item WHERE kind = 'bracket';
INSERT INTO policy SELECT id, doc, id IN (SELECT doc ->> '$' FROM item WHERE kind = 'use'), '' FROM item WHERE kind = 'policy';
DROP TABLE column_meaning;
DROP TABLE revision;
DROP TABLE batch;
DROP TABLE item;
