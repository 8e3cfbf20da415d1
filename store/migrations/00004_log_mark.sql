-- +goose Up
-- Whether something was written that may still be in the write-ahead log alone: such a file does not stand
-- for the plan without its log. mark is drawn anew each time that begins, and every write touches this row,
-- so that the log of another file is told from this one's.
CREATE TABLE log_mark (
    one    INTEGER PRIMARY KEY CHECK (one = 1),
    mark   TEXT    NOT NULL,
    open   INTEGER NOT NULL,
    writes INTEGER NOT NULL
);
INSERT INTO log_mark (one, mark, open, writes) VALUES (1, '', 0, 0);

-- +goose Down
DROP TABLE log_mark;
