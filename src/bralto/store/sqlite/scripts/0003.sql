-- Strict tables; a version a study; what the shelf shows, kept; tags, hidden studies, the bin.
-- Rebuilt as SQLite advises (Making Other Kinds Of Table Schema Changes, lang_altertable.html).
-- JSON columns hold the words of the study file; where the earlier program wrote a JSON null
-- there is an SQL NULL now.
CREATE TABLE picture_3 (
    id INTEGER PRIMARY KEY,
    file TEXT NOT NULL,       -- its name as the learner knew it
    media TEXT,               -- name in the media folder; none where it came without a picture
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    plumb_deg REAL NOT NULL,
    sheet TEXT,
    polygons TEXT NOT NULL,
    permission TEXT,
    crop TEXT,
    focal_35mm REAL,
    extra TEXT NOT NULL
) STRICT;
INSERT INTO picture_3
    SELECT id, CAST(file AS TEXT), CAST(media AS TEXT), CAST(width AS INTEGER),
           CAST(height AS INTEGER), CAST(plumb_deg AS REAL), NULLIF(CAST(sheet AS TEXT), 'null'),
           CAST(polygons AS TEXT), CAST(permission AS TEXT), NULLIF(CAST(crop AS TEXT), 'null'),
           CAST(focal_35mm AS REAL), CAST(extra AS TEXT)
    FROM picture;
CREATE TABLE study_3 (
    id TEXT NOT NULL PRIMARY KEY,
    title TEXT NOT NULL,
    view TEXT NOT NULL,
    kind TEXT NOT NULL,
    school TEXT NOT NULL,
    grade TEXT NOT NULL,
    reference_id INTEGER REFERENCES picture (id),
    made TEXT NOT NULL,                  -- ISO 8601, UTC
    extra TEXT NOT NULL,                 -- the rest of the study file
    version INTEGER NOT NULL DEFAULT 1,  -- one more at every edit of what is measured or said
    hidden INTEGER NOT NULL DEFAULT 0,
    binned TEXT                          -- ISO 8601, UTC: when it was put into the bin
) STRICT;
INSERT INTO study_3 (id, title, view, kind, school, grade, reference_id, made, extra)
    SELECT CAST(id AS TEXT), CAST(title AS TEXT), CAST(view AS TEXT), CAST(kind AS TEXT),
           CAST(school AS TEXT), CAST(grade AS TEXT), CAST(reference_id AS INTEGER),
           CAST(made AS TEXT), CAST(extra AS TEXT)
    FROM study;
CREATE TABLE state_3 (
    id INTEGER PRIMARY KEY,
    study_id TEXT NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    taken TEXT,
    picture_id INTEGER NOT NULL REFERENCES picture (id),
    extra TEXT NOT NULL,
    UNIQUE (study_id, name)
) STRICT;
INSERT INTO state_3
    SELECT id, CAST(study_id AS TEXT), CAST(number AS INTEGER), CAST(name AS TEXT),
           CAST(taken AS TEXT), CAST(picture_id AS INTEGER), CAST(extra AS TEXT)
    FROM state;
CREATE TABLE mark_3 (
    picture_id INTEGER NOT NULL REFERENCES picture (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    x REAL NOT NULL,
    y REAL NOT NULL,
    visibility TEXT NOT NULL,
    spread REAL NOT NULL,
    extra TEXT NOT NULL,
    PRIMARY KEY (picture_id, key)
) STRICT, WITHOUT ROWID;
INSERT INTO mark_3
    SELECT CAST(picture_id AS INTEGER), CAST(key AS TEXT), CAST(x AS REAL), CAST(y AS REAL),
           CAST(visibility AS TEXT), CAST(spread AS REAL), CAST(extra AS TEXT)
    FROM mark;
DROP TABLE mark;
DROP TABLE state;
DROP TABLE study;
DROP TABLE picture;
ALTER TABLE picture_3 RENAME TO picture;
ALTER TABLE study_3 RENAME TO study;
ALTER TABLE state_3 RENAME TO state;
ALTER TABLE mark_3 RENAME TO mark;
CREATE INDEX ix_study_made ON study (made, id);
CREATE INDEX ix_study_reference ON study (reference_id);
CREATE INDEX ix_state_picture ON state (picture_id);
CREATE TABLE tag (
    study_id TEXT NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    PRIMARY KEY (study_id, name)
) STRICT, WITHOUT ROWID;
CREATE TABLE summary (
    study_id TEXT NOT NULL PRIMARY KEY REFERENCES study (id) ON DELETE CASCADE,
    stamp INTEGER NOT NULL,    -- the study's version that was measured
    science INTEGER NOT NULL,  -- the version of the science that measured it
    document TEXT NOT NULL
) STRICT, WITHOUT ROWID;
