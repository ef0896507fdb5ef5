-- The tree: folders, documents, their versions and places.

-- The bearers of grants that govern something: folders, and the document itself where it was given singly.
CREATE TABLE access_class (
    id       bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    folders  bigint[] NOT NULL,
    document bigint,
    UNIQUE NULLS NOT DISTINCT (folders, document)
);
CREATE INDEX access_class_folders ON access_class USING gin (folders);
CREATE INDEX access_class_document ON access_class (document) WHERE document IS NOT NULL;

CREATE SEQUENCE folder_id;
CREATE SEQUENCE entry_id; -- documents and their places: a first place bears its document's number

CREATE TABLE folder (
    id           bigint PRIMARY KEY,
    restricted   boolean NOT NULL DEFAULT false,
    position     integer NOT NULL DEFAULT 0, -- areas stand in the office's order, then by name
    access_class bigint NOT NULL REFERENCES access_class,
    made_at      timestamptz NOT NULL DEFAULT now(),
    made_by      bigint REFERENCES person
);

CREATE TABLE document (
    id         bigint PRIMARY KEY,
    extension  text NOT NULL,
    state      text NOT NULL CHECK (state IN ('arrived', 'filed', 'absorbed', 'discarded')),
    head       integer NOT NULL DEFAULT 1,
    arrived_at timestamptz NOT NULL DEFAULT now(),
    arrived_by bigint REFERENCES person,
    filed_at   timestamptz,
    filed_by   bigint REFERENCES person
);

CREATE TABLE version (
    document bigint NOT NULL REFERENCES document,
    number   integer NOT NULL,
    content  bytea NOT NULL REFERENCES content,
    original_name text NOT NULL,
    at       timestamptz NOT NULL DEFAULT now(),
    by       bigint REFERENCES person,
    PRIMARY KEY (document, number)
);
CREATE INDEX version_content ON version (content);

-- ``key`` is the name without regard to case or normal form, digits padded so that it sorts naturally: one key gives both
-- the rule that no two entries of a folder share a name and the order. It is made in one place, in Python. What points to
-- folders here has no foreign key: the gate checks all targets of a manifest at once, under the structure lock.
CREATE TABLE entry (
    id       bigint PRIMARY KEY,
    parent   bigint NOT NULL,
    name     text NOT NULL,
    key      text COLLATE "C" NOT NULL,
    folder   bigint REFERENCES folder,
    document bigint REFERENCES document,
    rank     integer NOT NULL DEFAULT 0, -- the place of the highest rank, the oldest of these, is the document's home
    home     boolean NOT NULL DEFAULT true,
    issued   date,   -- what lists of a folder are sorted by stands beside the place, so that no other row is looked at for
    size     bigint, -- those not shown: the issue date and the newest version's size of its document; none for folders
    CHECK (num_nonnulls(folder, document) = 1),
    CONSTRAINT entry_name UNIQUE (parent, key) DEFERRABLE INITIALLY IMMEDIATE
);
-- A place that moves or gets another name is written anew: with room on its page it stays there, so that one page is logged and
-- written, not two. Manifests leave many dead places behind: they are cleaned up soon, in one go.
ALTER TABLE entry SET (fillfactor = 50, autovacuum_vacuum_scale_factor = 0.02, autovacuum_vacuum_cost_delay = 0);
CREATE UNIQUE INDEX entry_folder ON entry (folder) WHERE folder IS NOT NULL;
CREATE INDEX entry_further ON entry (document) WHERE document <> id;
CREATE INDEX entry_second ON entry (document) WHERE NOT home;

-- The places of documents, for whoever asks for them by document: each branch has an index.
CREATE VIEW document_place AS
    SELECT id, parent, name, key, id AS document, rank, home, issued, size FROM entry WHERE document = id
    UNION ALL
    SELECT id, parent, name, key, document, rank, home, issued, size FROM entry WHERE document <> id;

CREATE TABLE discarded_entry (
    id       bigint PRIMARY KEY,
    parent   bigint NOT NULL,
    name     text NOT NULL,
    document bigint NOT NULL REFERENCES document,
    rank     integer NOT NULL,
    manifest bigint NOT NULL,
    at       timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX discarded_entry_document ON discarded_entry (document);

-- What a person carries along to put down elsewhere; what is gone meanwhile is no longer in hand.
CREATE TABLE in_hand (
    person bigint NOT NULL REFERENCES person,
    entry  bigint NOT NULL,
    at     timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (person, entry)
);

CREATE TABLE folder_closure (
    ancestor   bigint NOT NULL REFERENCES folder ON DELETE CASCADE,
    descendant bigint NOT NULL REFERENCES folder ON DELETE CASCADE,
    depth      integer NOT NULL,
    PRIMARY KEY (ancestor, descendant)
);
CREATE INDEX folder_closure_descendant ON folder_closure (descendant);

-- Direct counts of places by the class of their documents: what the worker has folded, and what was appended since.
CREATE TABLE folder_count (
    folder       bigint NOT NULL REFERENCES folder ON DELETE CASCADE,
    access_class bigint NOT NULL REFERENCES access_class,
    places       bigint NOT NULL,
    changed_at   timestamptz, -- when documents were last put into it, taken out or renamed there
    PRIMARY KEY (folder, access_class)
);
CREATE TABLE folder_count_delta (
    id           bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    folder       bigint NOT NULL REFERENCES folder ON DELETE CASCADE,
    access_class bigint NOT NULL REFERENCES access_class,
    places       bigint NOT NULL,
    at           timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX folder_count_delta_folder ON folder_count_delta (folder);

-- A tag on a folder is the folder's alone: what lies in it does not bear it. No foreign key: a folder that is removed and
-- made again by undo has the tags that it had.
CREATE TABLE folder_tag (
    folder bigint NOT NULL,
    tag    text NOT NULL,
    PRIMARY KEY (folder, tag)
);
CREATE INDEX folder_tag_tag ON folder_tag (tag);
