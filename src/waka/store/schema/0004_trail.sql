-- Which lines of manifests that ran speak of a document: its trail. It stands beside the lines, so that to keep a plan, or the
-- inverses of a long one, costs no index by document; large manifests leave theirs to the worker (fold_due).
CREATE TABLE document_trail (
    document bigint  NOT NULL,
    manifest bigint  NOT NULL,
    line     integer NOT NULL,
    PRIMARY KEY (document, manifest, line)
);
INSERT INTO document_trail
    SELECT l.document, l.manifest, l.line FROM manifest_line l JOIN manifest m ON m.id = l.manifest
    WHERE l.document IS NOT NULL AND l.problem IS NULL AND m.ran_at IS NOT NULL
      -- a run as a whole that waits, was stopped or failed did nothing
      AND CASE WHEN m.partial THEN l.line < m.progress ELSE m.state NOT IN ('queued', 'running', 'stopped', 'failed') END
    ORDER BY 1, 2, 3;
DROP INDEX manifest_line_document;

-- The few lines of a long manifest that do not place documents (folders made and removed) are found without going through all.
CREATE INDEX manifest_line_other ON manifest_line (manifest, line) WHERE kind <> 'place';

-- Manifests whose names and trails the worker has still to take in; until then, whoever asks looks into their lines.
ALTER TABLE words_due RENAME TO fold_due;
ALTER TABLE fold_due ADD COLUMN next_line integer NOT NULL DEFAULT 0; -- the lines before it were taken in

-- Manifests leave many dead places behind: they are cleaned up soon, in one go.
ALTER TABLE entry SET (autovacuum_vacuum_scale_factor = 0.02, autovacuum_vacuum_cost_delay = 0);

GRANT SELECT, INSERT ON document_trail TO waka_app;
UPDATE job SET kind = 'fold manifests' WHERE kind = 'names into words';
