-- Who may do what.

-- What a principal may do in a folder and all below it, or with one document wherever it lies (to read or comment only).
CREATE TABLE access_grant (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    folder    bigint REFERENCES folder ON DELETE CASCADE,
    document  bigint REFERENCES document,
    principal bigint NOT NULL REFERENCES principal,
    level     smallint NOT NULL CHECK (level BETWEEN 1 AND 4), -- read, comment, file, keep
    until     date,                -- the last day on which it counts, by the office's calendar; for always where there is none
    given_by  bigint REFERENCES person,
    given_at  timestamptz NOT NULL DEFAULT now(),
    word      text NOT NULL DEFAULT '', -- what the giver wrote with it
    manifest  bigint,
    CHECK (num_nonnulls(folder, document) = 1),
    CHECK (document IS NULL OR level <= 2),
    UNIQUE NULLS NOT DISTINCT (folder, document, principal)
);
CREATE INDEX access_grant_principal ON access_grant (principal);
CREATE INDEX access_grant_document ON access_grant (document) WHERE document IS NOT NULL;

CREATE TABLE class_reader (
    access_class bigint NOT NULL REFERENCES access_class,
    principal    bigint NOT NULL REFERENCES principal,
    level        smallint NOT NULL,
    until        date NOT NULL, -- infinity: for always. A level is kept as long as it outlasts every higher one
    PRIMARY KEY (principal, access_class, level)
);
CREATE INDEX class_reader_class ON class_reader (access_class);

-- Which of the things given to them a person has looked at since: the others are marked as new.
CREATE TABLE grant_seen (
    person       bigint NOT NULL REFERENCES person,
    access_grant bigint NOT NULL REFERENCES access_grant ON DELETE CASCADE,
    PRIMARY KEY (person, access_grant)
);

-- What an area is for, and who answers for it. No foreign key: see plan_revision.
CREATE TABLE area (
    folder  bigint PRIMARY KEY,
    purpose text NOT NULL DEFAULT '',
    answers bigint REFERENCES person
);
