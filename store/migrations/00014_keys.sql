-- +goose Up
-- The public keys by which this database's documents were signed, as PEM; the private ones are never in it.
CREATE TABLE signing_key (
    id     TEXT PRIMARY KEY,
    public TEXT NOT NULL,
    at     TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- +goose StatementBegin
CREATE TRIGGER signing_key_stays BEFORE DELETE ON signing_key BEGIN SELECT RAISE(ABORT, 'keys are kept: what they signed is to be checked'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER signing_key_is_kept BEFORE UPDATE ON signing_key BEGIN SELECT RAISE(ABORT, 'keys are kept'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE signing_key;
