-- +goose Up
-- In which order transactions were undone, so that redo begins with the one undone last. Those from
-- before it was written down are redone in the order they were done.
ALTER TABLE transactions ADD COLUMN turned INTEGER NOT NULL DEFAULT 0;
UPDATE transactions SET turned = -id WHERE state = 'undone';

-- +goose Down
ALTER TABLE transactions DROP COLUMN turned;
