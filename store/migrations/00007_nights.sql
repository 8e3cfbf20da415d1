-- +goose Up
-- What happened at shows, as pages wrote it down. It is no part of the plan: a plan that is undone leaves it be.
CREATE TABLE nights (
    seq   INTEGER PRIMARY KEY AUTOINCREMENT,
    show  TEXT NOT NULL,
    event TEXT NOT NULL,
    doc   TEXT NOT NULL,
    UNIQUE (show, event)
);

-- +goose Down
DROP TABLE nights;
