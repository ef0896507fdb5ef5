-- Contents and what was read in them.

CREATE TABLE content (
    sha256      bytea PRIMARY KEY CHECK (length(sha256) = 32),
    size        bigint NOT NULL CHECK (size >= 0),
    media_type  text NOT NULL,
    state       text NOT NULL CHECK (state IN ('arriving', 'present')),
    lease_until timestamptz NOT NULL
);

CREATE TABLE reading (
    content    bytea PRIMARY KEY REFERENCES content ON DELETE CASCADE,
    reader     integer NOT NULL,
    outcome    text NOT NULL CHECK (outcome IN ('read', 'unreadable')),
    problem    jsonb,                             -- why it could not be read (words.readings.PROBLEMS)
    pages      jsonb NOT NULL DEFAULT '[]',
    properties jsonb NOT NULL DEFAULT '{}',
    stated     jsonb NOT NULL DEFAULT '[]',       -- facts in a form made for programs: invoice data, heads of a mail
    notes      jsonb NOT NULL DEFAULT '[]',       -- what a person should know of the reading (words.readings.NOTES)
    scanned    boolean NOT NULL DEFAULT false,    -- its words were recognised
    locked     boolean NOT NULL DEFAULT false,    -- a password would open it
    awaiting   integer[] NOT NULL DEFAULT '{}',   -- pages that are still to be recognised; their scans stand beside the pictures
    read_at    timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE page_words (
    content bytea NOT NULL REFERENCES content ON DELETE CASCADE,
    page    integer NOT NULL,
    words   jsonb NOT NULL,
    PRIMARY KEY (content, page)
);

CREATE TABLE content_text (
    content bytea PRIMARY KEY REFERENCES content ON DELETE CASCADE,
    body    text NOT NULL,
    words   tsvector NOT NULL
);
CREATE INDEX content_text_words ON content_text USING gin (words) WITH (fastupdate = off);
