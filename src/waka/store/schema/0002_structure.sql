-- Structure: templates of trees, tags of folders, when a folder last changed.

-- Trees of folders kept as templates for an area; each line is a place pattern. Revisions are never changed.
CREATE TABLE tree_template (
    id       bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    area     bigint NOT NULL REFERENCES folder,
    revision integer NOT NULL DEFAULT 1,
    removed  boolean NOT NULL DEFAULT false
);
CREATE INDEX tree_template_area ON tree_template (area);
CREATE TABLE tree_template_revision (
    template bigint NOT NULL REFERENCES tree_template,
    revision integer NOT NULL,
    name     text NOT NULL,
    lines    text[] NOT NULL,
    at       timestamptz NOT NULL DEFAULT now(),
    by       bigint REFERENCES person,
    PRIMARY KEY (template, revision)
);

-- A tag on a folder is the folder's alone: what lies in it does not bear it. No foreign key: a folder that is removed and
-- made again by undo has the tags that it had.
CREATE TABLE folder_tag (
    folder bigint NOT NULL,
    tag    text NOT NULL,
    PRIMARY KEY (folder, tag)
);
CREATE INDEX folder_tag_tag ON folder_tag (tag);

-- When documents were last put into a folder, taken out or renamed there, beside the counts, so by class as well.
ALTER TABLE folder_count ADD COLUMN changed_at timestamptz;
ALTER TABLE folder_count_delta ADD COLUMN at timestamptz NOT NULL DEFAULT now();

-- The size of the newest version, so that lines are sorted by it as quickly as by any column.
ALTER TABLE search_row ADD COLUMN size bigint NOT NULL DEFAULT 0;
UPDATE search_row s SET size = c.size FROM document d JOIN version v ON v.document = d.id AND v.number = d.head
    JOIN content c ON c.sha256 = v.content WHERE d.id = s.document;

-- What a run as a whole is at: written beside its transaction, which nobody else sees into.
CREATE TABLE run_phase (
    manifest bigint PRIMARY KEY,
    phase    text NOT NULL,
    at       timestamptz NOT NULL DEFAULT now()
);

GRANT SELECT, INSERT, UPDATE, DELETE ON run_phase, tree_template, folder_tag TO waka_app;
GRANT SELECT, INSERT ON tree_template_revision TO waka_app;
GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO waka_app;
