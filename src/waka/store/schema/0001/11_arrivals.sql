-- Arrivals, and folders that are watched for them.

CREATE TABLE arrival (
    document      bigint PRIMARY KEY REFERENCES document,
    upload        uuid UNIQUE,
    area          bigint REFERENCES folder,
    original_name text NOT NULL,
    source        text NOT NULL,
    came_in       text NOT NULL DEFAULT '',       -- the folder that it was dropped with: a hint for its place
    mail          bigint REFERENCES document,     -- the mail that brought it
    made_from     jsonb NOT NULL DEFAULT '[]',    -- the arrivals whose pages it is made of: {"arrival", "pages"}
    state         text NOT NULL CHECK (state IN ('reading', 'read', 'unreadable', 'filed', 'discarded', 'resting')),
    problem       jsonb,                          -- words.readings.PROBLEMS
    times_found   integer NOT NULL DEFAULT 0,     -- how often its facts were looked for
    cuts          jsonb NOT NULL DEFAULT '[]',    -- where it seems to be several: [page, why (words.stacks)]
    slip          jsonb NOT NULL DEFAULT '{}',
    slip_revision integer NOT NULL DEFAULT 0,
    parked_until  date,                           -- put aside until that day, with a note
    parked_note   text NOT NULL DEFAULT '',
    parked_by     bigint REFERENCES person,
    claimed_by    bigint REFERENCES person,
    claimed_until timestamptz
);
CREATE INDEX arrival_area ON arrival (area) WHERE area IS NOT NULL;
CREATE INDEX arrival_waiting ON arrival (document) WHERE state IN ('reading', 'read', 'unreadable');

-- Folders that are watched for areas, below the home's own folder for that; and what could not be taken from them.
CREATE TABLE watched (
    area   bigint PRIMARY KEY REFERENCES folder ON DELETE CASCADE,
    folder text NOT NULL UNIQUE,
    after  text NOT NULL CHECK (after IN ('done', 'remove')), -- what becomes of taken files
    by     bigint NOT NULL REFERENCES person                  -- in whose name files come in
);
CREATE TABLE watched_problem (
    area    bigint NOT NULL,
    name    text NOT NULL,
    problem jsonb NOT NULL, -- words.watched.PROBLEMS
    since   timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (area, name)
);
