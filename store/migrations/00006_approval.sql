-- +goose Up
-- What the company stands behind. The document is what was judged, whole, in the canonical form of which its
-- fingerprint is taken; the result is what came out. Nothing of it changes once it is approved.
CREATE TABLE approval (
    id            INTEGER PRIMARY KEY AUTOINCREMENT,
    subject       TEXT NOT NULL,
    title         TEXT NOT NULL,
    state         TEXT NOT NULL CHECK (state IN ('draft', 'in_review', 'approved', 'superseded', 'withdrawn')),
    version       INTEGER NOT NULL DEFAULT 1,
    verdict       TEXT NOT NULL,
    document      TEXT NOT NULL,
    fingerprint   TEXT NOT NULL,
    result        TEXT NOT NULL,
    preparer      INTEGER NOT NULL,
    prepared_by   TEXT NOT NULL,
    prepared_at   TEXT NOT NULL,
    approver      INTEGER,
    approved_by   TEXT,
    approved_at   TEXT,
    superseded_by INTEGER REFERENCES approval (id),
    seen          TEXT NOT NULL DEFAULT '', -- the fingerprint of what the catalogue had when it was last judged again
    stale         TEXT NOT NULL DEFAULT '', -- how the result differs then, as JSON; '': it does not
    CHECK ((state IN ('approved', 'superseded')) <= (approver IS NOT NULL AND approver <> preparer))
) STRICT;

CREATE UNIQUE INDEX approval_current ON approval (subject) WHERE state = 'approved';
CREATE UNIQUE INDEX approval_open ON approval (subject) WHERE state IN ('draft', 'in_review');
CREATE INDEX approval_state ON approval (state);

-- What happened with each, and what was said of it. It only grows.
CREATE TABLE approval_event (
    seq      INTEGER PRIMARY KEY AUTOINCREMENT,
    approval INTEGER NOT NULL REFERENCES approval (id),
    at       TEXT NOT NULL,
    person   INTEGER NOT NULL, -- 0: the program
    who      TEXT NOT NULL,
    what     TEXT NOT NULL,
    about    TEXT NOT NULL, -- the finding or the step that is spoken of; ''
    text     TEXT NOT NULL
) STRICT;

CREATE INDEX approval_event_of ON approval_event (approval);

-- +goose StatementBegin
CREATE TRIGGER approval_is_frozen BEFORE UPDATE ON approval WHEN OLD.state IN ('approved', 'superseded', 'withdrawn') AND (
    NEW.subject <> OLD.subject OR NEW.title <> OLD.title OR NEW.verdict <> OLD.verdict OR NEW.document <> OLD.document
    OR NEW.fingerprint <> OLD.fingerprint OR NEW.result <> OLD.result OR NEW.preparer <> OLD.preparer OR NEW.prepared_by <> OLD.prepared_by
    OR NEW.prepared_at <> OLD.prepared_at OR NEW.approver IS NOT OLD.approver OR NEW.approved_by IS NOT OLD.approved_by
    OR NEW.approved_at IS NOT OLD.approved_at)
BEGIN SELECT RAISE(ABORT, 'nothing approved is edited'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER approval_goes_forward BEFORE UPDATE OF state ON approval WHEN NEW.state <> OLD.state AND NOT (
    OLD.state = 'draft' AND NEW.state IN ('in_review', 'withdrawn') OR OLD.state = 'in_review' AND NEW.state IN ('draft', 'approved', 'withdrawn')
    OR OLD.state = 'approved' AND NEW.state IN ('superseded', 'withdrawn'))
BEGIN SELECT RAISE(ABORT, 'an approval does not go that way'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER approval_begins BEFORE INSERT ON approval WHEN NEW.state <> 'in_review'
BEGIN SELECT RAISE(ABORT, 'an approval begins with a review'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER approval_stays BEFORE DELETE ON approval BEGIN SELECT RAISE(ABORT, 'approvals are kept'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER approval_event_only_grows BEFORE UPDATE ON approval_event BEGIN SELECT RAISE(ABORT, 'it only grows'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER approval_event_keeps BEFORE DELETE ON approval_event BEGIN SELECT RAISE(ABORT, 'it only grows'); END;
-- +goose StatementEnd

-- Documents that were issued from what is approved, byte for byte.
CREATE TABLE issued (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    approval INTEGER NOT NULL REFERENCES approval (id),
    number   TEXT NOT NULL UNIQUE,
    revision INTEGER NOT NULL,
    code     TEXT NOT NULL UNIQUE, -- of the address that says whether it is current
    what     TEXT NOT NULL CHECK (what IN ('pack', 'template', 'card')),
    options  TEXT NOT NULL,        -- JSON: paper, units, language
    name     TEXT NOT NULL,
    sum      TEXT NOT NULL,        -- SHA-256 of the file
    file     BLOB NOT NULL,
    at       TEXT NOT NULL,
    person   INTEGER NOT NULL,
    who      TEXT NOT NULL,
    receiver TEXT NOT NULL
) STRICT;

CREATE INDEX issued_of ON issued (approval);

-- +goose StatementBegin
CREATE TRIGGER issued_stays BEFORE DELETE ON issued BEGIN SELECT RAISE(ABORT, 'what was issued is kept'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER issued_is_kept BEFORE UPDATE ON issued BEGIN SELECT RAISE(ABORT, 'what was issued is kept'); END;
-- +goose StatementEnd

-- Letters that were sent: with a document, or of one that is not to be worked by any more.
CREATE TABLE letter (
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

CREATE INDEX letter_of ON letter (issued);

-- +goose StatementBegin
CREATE TRIGGER letter_stays BEFORE DELETE ON letter BEGIN SELECT RAISE(ABORT, 'letters are kept'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER letter_is_kept BEFORE UPDATE ON letter BEGIN SELECT RAISE(ABORT, 'letters are kept'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE letter;
DROP TABLE issued;
DROP TABLE approval_event;
DROP TABLE approval;
