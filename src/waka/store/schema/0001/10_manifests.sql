-- Manifests and their lines.

CREATE TABLE manifest (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    title     jsonb NOT NULL,                     -- words.manifests.TITLES: a code with its parameters
    by        bigint REFERENCES person,
    rulebook  bigint,                             -- whose rules did it by themselves: the area; then nobody's
    session   bigint,
    at        timestamptz NOT NULL DEFAULT now(),
    state     text NOT NULL CHECK (state IN ('planned', 'checked', 'queued', 'running', 'done', 'partly done', 'stopped',
                                             'failed', 'undoing', 'undone', 'partly undone')),
    lines     integer NOT NULL,
    undo_of   bigint REFERENCES manifest,
    origin    jsonb,                              -- how it was planned: the folder, the patterns, the policy
    partial   boolean NOT NULL DEFAULT false,     -- do what can be done, in chunks; else all or nothing
    progress  integer NOT NULL DEFAULT 0,         -- lines gone through so far, of a run in chunks
    problem   jsonb,                              -- words.manifests.PROBLEMS: why it stopped or failed
    ran_by    bigint REFERENCES person,
    ran_at    timestamptz,
    ended_at  timestamptz,
    bytes     bigint,                             -- how much the documents of a plan hold
    progress_bytes bigint NOT NULL DEFAULT 0      -- how much of it a run in chunks has gone through
);
CREATE INDEX manifest_by ON manifest (by, id);
CREATE INDEX manifest_undo_of ON manifest (undo_of);
-- Of all manifests, the few that are long, under way, planned or not wholly done: they are listed by themselves.
CREATE INDEX manifest_runs ON manifest (id) WHERE state NOT IN ('done', 'undone') OR lines > 300;
CREATE INDEX manifest_discarded_folder ON manifest (id) WHERE origin ? 'discarded_folder';

-- ``key`` is NULL where the name stays: then the entry keeps the key it has. ``from_key`` is what ``from_name`` was kept
-- under, where planning knew it: undo takes it from there. A line with a problem is left out.
-- Lines are never changed once their manifest began to run. No foreign key: manifests with lines are never deleted.
CREATE TABLE manifest_line (
    manifest    bigint NOT NULL,
    line        integer NOT NULL,
    kind        text NOT NULL,
    document    bigint,
    folder      bigint,
    entry       bigint,
    from_parent bigint,
    from_name   text,
    to_parent   bigint,
    to_name     text,
    key         text COLLATE "C",
    from_key    text COLLATE "C",
    data        jsonb,
    problem     jsonb,                            -- words.lines.PROBLEMS
    undoes      integer,                          -- the line of the undone manifest that it takes back
    PRIMARY KEY (manifest, line)
);
-- The few lines of a long manifest that do not place documents (folders made and removed) are found without going through all.
CREATE INDEX manifest_line_other ON manifest_line (manifest, line) WHERE kind <> 'place';
CREATE INDEX manifest_line_into ON manifest_line (((data ->> 'into')::bigint)) WHERE kind IN ('absorb', 'release');
CREATE INDEX manifest_line_folder ON manifest_line (folder, manifest) WHERE folder IS NOT NULL;

-- The lines that were taken back. Where that was undone in turn, they were done again by a manifest of its own.
CREATE VIEW line_undone AS
    SELECT m.undo_of AS manifest, w.undoes AS line FROM manifest m JOIN manifest_line w ON w.manifest = m.id
    WHERE m.undo_of IS NOT NULL AND m.state IN ('done', 'partly done', 'undoing', 'undone', 'partly undone')
      AND w.undoes IS NOT NULL AND w.problem IS NULL;

-- The lines of a long manifest, added up when they were written: what runs it need not go through them for that.
-- A manifest without rows here has none kept; then its lines are added up when that is asked.
CREATE TABLE line_sum (
    manifest    bigint NOT NULL,
    kind        text NOT NULL,
    from_parent bigint,
    to_parent   bigint,
    lines       integer NOT NULL
);
CREATE INDEX line_sum_manifest ON line_sum (manifest);

-- Lines are written for good once their manifest has run. What was added up of a plan's lines goes when any of them changes.
CREATE FUNCTION manifest_line_stays() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    ran bigint;
BEGIN
    SELECT id INTO ran FROM manifest WHERE id IN (SELECT manifest FROM changed) AND state NOT IN ('planned', 'checked') LIMIT 1;
    IF FOUND THEN
        RAISE EXCEPTION 'the lines of manifest % are written for good', ran USING ERRCODE = 'insufficient_privilege';
    END IF;
    DELETE FROM line_sum WHERE manifest IN (SELECT manifest FROM changed);
    RETURN NULL;
END $$;
CREATE TRIGGER manifest_line_stays AFTER UPDATE ON manifest_line
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION manifest_line_stays();
CREATE TRIGGER manifest_line_stays_there AFTER DELETE ON manifest_line
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION manifest_line_stays();

-- Which lines of manifests that ran speak of a document: its trail. It stands beside the lines, so that to keep a plan, or the
-- inverses of a long one, costs no index by document; large manifests leave theirs to the worker (index_due).
CREATE TABLE document_trail (
    document bigint  NOT NULL,
    manifest bigint  NOT NULL,
    line     integer NOT NULL,
    PRIMARY KEY (document, manifest, line)
);

-- Somebody asks a run to end; the run holds the manifest's own row.
CREATE TABLE stop_asked (
    manifest bigint PRIMARY KEY
);

-- What a run in chunks could not do, found out while it ran.
CREATE TABLE line_failure (
    manifest bigint NOT NULL,
    line     integer NOT NULL,
    problem  jsonb NOT NULL,
    PRIMARY KEY (manifest, line)
);

-- One row a manifest and access class that it touched: whoever reads the outbox sees only what they may.
CREATE TABLE outbox (
    id           bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    manifest     bigint NOT NULL REFERENCES manifest,
    access_class bigint NOT NULL REFERENCES access_class,
    at           timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX outbox_class ON outbox (access_class, id);

-- What a run as a whole is at: written beside its transaction, which nobody else sees into.
CREATE TABLE run_phase (
    manifest bigint PRIMARY KEY,
    phase    text NOT NULL,
    at       timestamptz NOT NULL DEFAULT now()
);
