-- +goose Up
-- Who prepared what is approved is also who wrote what it rests on, by the number of their account: names are not their own.
ALTER TABLE revision ADD COLUMN person INTEGER;
-- The catalogue's latest revision when it was approved: what was written since was prepared for the next approval.
ALTER TABLE approval ADD COLUMN rests_on INTEGER NOT NULL DEFAULT 0;
-- +goose StatementBegin
CREATE TRIGGER approval_rests_is_frozen BEFORE UPDATE OF rests_on ON approval WHEN NEW.rests_on <> OLD.rests_on
    AND OLD.state IN ('approved', 'superseded', 'withdrawn')
BEGIN SELECT RAISE(ABORT, 'nothing approved is edited'); END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER approval_rests_is_frozen;
ALTER TABLE approval DROP COLUMN rests_on;
ALTER TABLE revision DROP COLUMN person;
