-- +goose Up
-- Who signs in through the company's identity provider, and as whom of it: its address and the subject that it gives, which never
-- changes. It is kept at the first time.
ALTER TABLE person ADD COLUMN sso INTEGER NOT NULL DEFAULT 0 CHECK (sso IN (0, 1));
ALTER TABLE person ADD COLUMN subject TEXT;
CREATE UNIQUE INDEX person_subject ON person (subject) WHERE subject IS NOT NULL;

-- +goose Down
DROP INDEX person_subject;
ALTER TABLE person DROP COLUMN subject;
ALTER TABLE person DROP COLUMN sso;
