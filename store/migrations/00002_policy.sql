-- +goose Up
-- Policies by name, as documents of the exchange format with every setting.
-- At most one is in use; with none, the product's defaults are.
CREATE TABLE policy (
    name       TEXT PRIMARY KEY,
    doc        TEXT NOT NULL,
    in_use     INTEGER NOT NULL DEFAULT 0 CHECK (in_use IN (0, 1)),
    changed_at TEXT NOT NULL
) STRICT;

CREATE UNIQUE INDEX policy_in_use ON policy (in_use) WHERE in_use = 1;

-- +goose Down
DROP TABLE policy;
