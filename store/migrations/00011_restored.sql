-- +goose Up
-- When a backup gave it back: what happened to it afterwards is not known, until an approver confirms that it still holds; '' then.
ALTER TABLE approval ADD COLUMN restored TEXT NOT NULL DEFAULT '';

-- The restores onto a machine without accounts. Documents issued after one are numbered in its series, since what was numbered
-- between the backup and the restore is lost.
CREATE TABLE restored (
    seq    INTEGER PRIMARY KEY AUTOINCREMENT,
    at     TEXT NOT NULL,
    file   TEXT NOT NULL,
    series TEXT NOT NULL UNIQUE
) STRICT;

-- +goose Down
DROP TABLE restored;
ALTER TABLE approval DROP COLUMN restored;
