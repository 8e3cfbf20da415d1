-- +goose Up
-- A digest of what a request asked, so that its key cannot stand for something else.
ALTER TABLE transactions ADD COLUMN asked TEXT NOT NULL DEFAULT '';

-- Every write drops what was undone, and redo looks for it: neither reads the whole log for that.
CREATE INDEX transactions_undone ON transactions (turned) WHERE state = 'undone';

-- +goose Down
DROP INDEX transactions_undone;
ALTER TABLE transactions DROP COLUMN asked;
