-- The first tables: studies, their states, pictures and marks.
CREATE TABLE picture (
    id INTEGER PRIMARY KEY,
    file TEXT NOT NULL,
    media TEXT,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    plumb_deg REAL NOT NULL,
    sheet TEXT,
    polygons TEXT NOT NULL,
    permission TEXT,
    extra TEXT NOT NULL
);
CREATE TABLE study (
    id TEXT PRIMARY KEY,
    title TEXT NOT NULL,
    view TEXT NOT NULL,
    kind TEXT NOT NULL,
    school TEXT NOT NULL,
    grade TEXT NOT NULL,
    reference_id INTEGER REFERENCES picture (id),
    made TEXT NOT NULL,
    extra TEXT NOT NULL
);
CREATE INDEX ix_study_made ON study (made);
CREATE TABLE state (
    id INTEGER PRIMARY KEY,
    study_id TEXT NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    taken TEXT,
    picture_id INTEGER NOT NULL REFERENCES picture (id),
    extra TEXT NOT NULL,
    UNIQUE (study_id, name)
);
CREATE INDEX ix_state_study_id ON state (study_id);
CREATE TABLE mark (
    picture_id INTEGER NOT NULL REFERENCES picture (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    x REAL NOT NULL,
    y REAL NOT NULL,
    visibility TEXT NOT NULL,
    spread REAL NOT NULL,
    extra TEXT NOT NULL,
    PRIMARY KEY (picture_id, key)
);
