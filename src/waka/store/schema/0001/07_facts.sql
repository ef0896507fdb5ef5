-- Facts and tags of documents, and what corrections taught.

CREATE TABLE found_fact (
    document     bigint NOT NULL REFERENCES document,
    field        text NOT NULL,
    content      bytea NOT NULL,
    reader       integer NOT NULL,
    value        jsonb NOT NULL,
    alternatives jsonb NOT NULL DEFAULT '[]',
    source       jsonb NOT NULL,
    confidence   real NOT NULL,
    PRIMARY KEY (document, field)
);

CREATE TABLE fact (
    document bigint NOT NULL REFERENCES document,
    field    text NOT NULL,
    value    jsonb NOT NULL,
    source   jsonb NOT NULL,
    PRIMARY KEY (document, field)
);

CREATE TABLE document_tag (
    document bigint NOT NULL REFERENCES document,
    tag      text NOT NULL,
    PRIMARY KEY (document, tag)
);
CREATE INDEX document_tag_tag ON document_tag (tag);

-- What corrections taught: for a party and kind, beside which label and where on the first page a field stands.
CREATE TABLE lesson (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    party       bigint NOT NULL REFERENCES party,
    kind        text NOT NULL,
    field       text NOT NULL,
    label       text NOT NULL,
    "left"      real NOT NULL,
    top         real NOT NULL,
    right_times integer NOT NULL DEFAULT 0,
    wrong_times integer NOT NULL DEFAULT 0,
    by          bigint REFERENCES person,
    at          timestamptz NOT NULL DEFAULT now(),
    UNIQUE (party, kind, field)
);
