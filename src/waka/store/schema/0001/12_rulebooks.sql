-- Rulebooks: the filing rules of areas, and what became of each document that they were asked about.

-- Revisions are never changed. No foreign key: an area that is removed and made again by undo has the rules that it had.
CREATE TABLE rulebook_revision (
    area      bigint NOT NULL,
    revision  integer NOT NULL,
    text      text NOT NULL,
    parties   jsonb NOT NULL,          -- the numbers of the parties that it names, by name: one that is renamed stays the same
    by_itself boolean NOT NULL,        -- it files when it is sure; else it proposes
    events    text[] NOT NULL,         -- what its rules that are not paused are asked at
    why       text NOT NULL DEFAULT '',
    at        timestamptz NOT NULL DEFAULT now(),
    by        bigint REFERENCES person,
    PRIMARY KEY (area, revision)
);

-- A keeper of an area lets the rulebook of another one file there.
CREATE TABLE rulebook_grant (
    area     bigint NOT NULL,
    rulebook bigint NOT NULL CHECK (rulebook <> area),
    at       timestamptz NOT NULL DEFAULT now(),
    by       bigint REFERENCES person,
    PRIMARY KEY (area, rulebook)
);

-- The daily times of running rulebooks, and the last day (by the office's calendar) on which each was.
CREATE TABLE rulebook_daily (
    area     bigint NOT NULL,
    time     text NOT NULL,
    last_day date NOT NULL,
    PRIMARY KEY (area, time)
);

-- What came of asking a rulebook about a document, at an event. The document as it was seen is kept, and so is the text of the
-- revision: why each rule applied or did not is worked out anew from these when somebody asks.
CREATE TABLE rule_run (
    id       bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at       timestamptz NOT NULL DEFAULT now(),
    area     bigint NOT NULL,
    revision integer NOT NULL,
    document bigint NOT NULL REFERENCES document,
    event    text NOT NULL,
    outcome  text NOT NULL CHECK (outcome IN ('done', 'nothing to do', 'asked', 'left', 'no rule', 'failed')),
    rules    text[] NOT NULL,          -- those that applied, or ask
    reasons  jsonb NOT NULL DEFAULT '[]', -- what is asked, or why it failed: {"rule", "line", "why" (words.rules.ASKS)}
    seen     jsonb NOT NULL,           -- the document as it was seen, but for its text; parties by number
    today    date NOT NULL,
    manifest bigint REFERENCES manifest
);
CREATE INDEX rule_run_area ON rule_run (area, id);
CREATE INDEX rule_run_document ON rule_run (document, id);
CREATE INDEX rule_run_manifest ON rule_run (manifest) WHERE manifest IS NOT NULL;
