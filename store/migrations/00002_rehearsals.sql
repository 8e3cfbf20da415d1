-- +goose Up
-- Songs as they were rehearsed. They are no part of the plan: a plan that is undone leaves them be.
CREATE TABLE rehearsals (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    at       TEXT NOT NULL,
    rig      TEXT NOT NULL,
    set_list TEXT NOT NULL,
    doc      TEXT NOT NULL,
    request  TEXT UNIQUE
);
CREATE INDEX rehearsals_of ON rehearsals (rig, set_list, id);

-- +goose Down
DROP TABLE rehearsals;
