-- Places whose names say nothing (core.names.meaning): kept with the words of names, so that they are found in a large drive.
CREATE TABLE empty_name (
    entry    bigint PRIMARY KEY,
    document bigint NOT NULL
);
GRANT SELECT, INSERT, DELETE ON empty_name TO waka_app;
INSERT INTO job (kind, payload) SELECT 'judge names', '{}' WHERE EXISTS (SELECT FROM entry_words);

-- One name used in many places is found in the order of the names.
CREATE INDEX entry_words_name ON entry_words (name_key, document);
