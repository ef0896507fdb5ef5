-- Who may do what.

CREATE TABLE access_grant (
    folder    bigint NOT NULL REFERENCES folder ON DELETE CASCADE,
    principal bigint NOT NULL REFERENCES principal,
    level     smallint NOT NULL CHECK (level BETWEEN 1 AND 4), -- read, comment, file, keep
    until     date, -- the last day on which it counts, by the office's calendar; for always where there is none
    PRIMARY KEY (folder, principal)
);

CREATE TABLE class_reader (
    access_class bigint NOT NULL REFERENCES access_class,
    principal    bigint NOT NULL REFERENCES principal,
    level        smallint NOT NULL,
    until        date NOT NULL, -- infinity: for always. A level is kept as long as it outlasts every higher one
    PRIMARY KEY (principal, access_class, level)
);
CREATE INDEX class_reader_class ON class_reader (access_class);
