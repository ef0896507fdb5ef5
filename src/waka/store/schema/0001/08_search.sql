-- What searches look at.

-- One narrow row a filed document; no index on what moves change, and room on each page: then a move is a HOT update.
CREATE TABLE search_row (
    document     bigint PRIMARY KEY REFERENCES document,
    access_class bigint NOT NULL,
    kind         text,
    party        bigint,
    issued       date,
    size         bigint NOT NULL DEFAULT 0 -- of the newest version
) WITH (fillfactor = 50);
CREATE INDEX search_row_party ON search_row (party);
-- The newest first: a search for common words looks at these, not at all that meet them.
CREATE INDEX search_row_newest ON search_row (issued DESC NULLS LAST, document DESC);
CREATE INDEX search_row_kind ON search_row (kind);

-- Names for searching by parts. Large manifests leave theirs to the worker: until then searches look into the lines of
-- the manifests that are due here. A match counts only where the entry bears that name now.
CREATE TABLE entry_words (
    entry    bigint PRIMARY KEY,
    name_key text COLLATE "C" NOT NULL,
    document bigint NOT NULL
);
CREATE INDEX entry_words_trigrams ON entry_words USING gin (name_key gin_trgm_ops);
-- One name used in many places is found in the order of the names.
CREATE INDEX entry_words_name ON entry_words (name_key, document);
-- Manifests whose names and trails the worker has still to take in; until then, whoever asks looks into their lines.
CREATE TABLE index_due (
    manifest  bigint PRIMARY KEY,
    next_line integer NOT NULL DEFAULT 0 -- the lines before it were taken in
);

-- Places whose names say nothing (core.names.meaning): kept with the words of names, so that they are found in a large drive.
CREATE TABLE empty_name (
    entry    bigint PRIMARY KEY,
    document bigint NOT NULL
);
