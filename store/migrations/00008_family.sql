-- +goose Up
-- Approvals with the same bolts and steps have the same family, and are reviewed together: the fingerprint of what they have in common.
ALTER TABLE approval ADD COLUMN family TEXT NOT NULL DEFAULT '';
CREATE INDEX approval_family ON approval (family) WHERE state = 'in_review';
-- +goose StatementBegin
CREATE TRIGGER approval_family_is_frozen BEFORE UPDATE OF family ON approval WHEN NEW.family <> OLD.family
    AND OLD.state IN ('approved', 'superseded', 'withdrawn')
BEGIN SELECT RAISE(ABORT, 'nothing approved is edited'); END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER approval_family_is_frozen;
DROP INDEX approval_family;
ALTER TABLE approval DROP COLUMN family;
