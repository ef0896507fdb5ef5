-- Filing plans and templates of trees, in revisions that are never changed.

-- No foreign key: an area that is removed and made again by undo has the plan that it had.
CREATE TABLE plan_revision (
    area     bigint NOT NULL,
    revision integer NOT NULL,
    plan     jsonb NOT NULL, -- {kind: {"name": pattern, "place": pattern}}
    at       timestamptz NOT NULL DEFAULT now(),
    by       bigint REFERENCES person,
    PRIMARY KEY (area, revision)
);

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
