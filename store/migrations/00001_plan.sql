-- +goose Up
-- Every aggregate as it stands. Rows are never deleted: an aggregate that was removed has
-- no document, and keeps its place in the order for when its removal is undone.
CREATE TABLE aggregates (
    seq     INTEGER PRIMARY KEY AUTOINCREMENT,
    kind    TEXT    NOT NULL,
    id      TEXT    NOT NULL UNIQUE,
    version INTEGER NOT NULL,
    doc     TEXT
);

-- What was done, in order. An edit is done, undone, or dropped (undone, and then something
-- else was done instead). request makes a write that is sent twice happen once.
CREATE TABLE transactions (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    at      TEXT    NOT NULL,
    label   TEXT    NOT NULL,
    state   TEXT    NOT NULL CHECK (state IN ('done', 'undone', 'dropped')),
    request TEXT UNIQUE
);

-- Every version of every aggregate. content is the version whose document it repeats: its
-- own for an edit, an older one for an undo or a redo.
CREATE TABLE revisions (
    id      TEXT    NOT NULL REFERENCES aggregates (id),
    version INTEGER NOT NULL,
    content INTEGER NOT NULL,
    doc     TEXT,
    at      TEXT    NOT NULL,
    label   TEXT    NOT NULL,
    PRIMARY KEY (id, version)
);

-- Which versions a transaction led from and to.
CREATE TABLE steps (
    tx     INTEGER NOT NULL REFERENCES transactions (id),
    id     TEXT    NOT NULL REFERENCES aggregates (id),
    before INTEGER NOT NULL, -- content version; 0 when there was nothing
    after  INTEGER NOT NULL, -- content version
    PRIMARY KEY (tx, id)
);

-- +goose Down
DROP TABLE steps;
DROP TABLE revisions;
DROP TABLE transactions;
DROP TABLE aggregates;
