-- +goose Up
-- The few approvals that are in doubt, among all that ever were.
CREATE INDEX approval_in_doubt ON approval (id) WHERE state = 'approved' AND (stale <> '' OR restored <> '');

-- All that ever were of one subject.
CREATE INDEX approval_subject ON approval (subject);

-- How often documents of the catalogue were written, by whomever: what else is written leaves the catalogue as it was read.
CREATE TABLE touched (n INTEGER NOT NULL) STRICT;
INSERT INTO touched (n) VALUES (0);
-- +goose StatementBegin
CREATE TRIGGER item_put AFTER INSERT ON item BEGIN UPDATE touched SET n = n + 1; END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER item_changed AFTER UPDATE ON item BEGIN UPDATE touched SET n = n + 1; END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER item_removed AFTER DELETE ON item BEGIN UPDATE touched SET n = n + 1; END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER item_removed;
DROP TRIGGER item_changed;
DROP TRIGGER item_put;
DROP TABLE touched;
DROP INDEX approval_subject;
DROP INDEX approval_in_doubt;
