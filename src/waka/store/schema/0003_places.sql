-- A document's first place bears the document's own number: it is found by the primary key, and what is moved or renamed
-- has one index less to enter. Documents and entries draw their numbers from one sequence.
SELECT setval('entry_id', greatest(e.last_value, d.last_value)) FROM entry_id e, document_id d;
DROP SEQUENCE document_id;
DROP INDEX entry_document;
CREATE INDEX entry_further ON entry (document) WHERE document <> id;

-- What lists of a folder are sorted by stands beside the place, so that no other row is looked at for those not shown.
-- The issue date and the newest version's size of its document; none for folders.
ALTER TABLE entry ADD COLUMN issued date, ADD COLUMN size bigint;
UPDATE entry e SET issued = s.issued, size = s.size FROM search_row s WHERE s.document = e.document;

-- The places of documents, for whoever asks for them by document: each branch has an index.
CREATE VIEW document_place AS
    SELECT id, parent, name, key, id AS document, rank, home, issued, size FROM entry WHERE document = id
    UNION ALL
    SELECT id, parent, name, key, document, rank, home, issued, size FROM entry WHERE document <> id;

-- The newest first: a search for common words looks at these, not at all that meet them.
CREATE INDEX IF NOT EXISTS search_row_newest ON search_row (issued DESC NULLS LAST, document DESC);
DROP INDEX IF EXISTS search_row_issued;

-- Words of names know their document: a search looks at no entry.
ALTER TABLE entry_words ADD COLUMN document bigint;
UPDATE entry_words w SET document = e.document FROM entry e WHERE e.id = w.entry;
DELETE FROM entry_words WHERE document IS NULL; -- of places that are gone
ALTER TABLE entry_words ALTER COLUMN document SET NOT NULL;

-- How much the documents of a plan hold, and how much of it a run in chunks has gone through.
ALTER TABLE manifest ADD COLUMN bytes bigint, ADD COLUMN progress_bytes bigint NOT NULL DEFAULT 0;

GRANT SELECT ON document_place TO waka_app;
