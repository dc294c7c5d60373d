-- What the record makes of studies, read only there; and what a learner notes on practising.
CREATE TABLE traits (
    study_id TEXT NOT NULL PRIMARY KEY REFERENCES study (id) ON DELETE CASCADE,
    stamp INTEGER NOT NULL,    -- the study's version that was measured
    science INTEGER NOT NULL,  -- the version of the science that measured it
    document TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE TABLE practice (
    id INTEGER PRIMARY KEY,
    at TEXT NOT NULL,          -- ISO 8601, UTC: when it was noted
    kind TEXT NOT NULL,        -- what was: core.longitudinal.practice
    document TEXT NOT NULL
) STRICT;
