-- Which line of the undone manifest a line takes back: what is left of one that was undone in part is told, and undone alone.
ALTER TABLE manifest_line ADD COLUMN undoes integer;

-- Lines are written for good; here they learn what they did. Only where a part was undone does it matter.
ALTER TABLE manifest_line DISABLE TRIGGER manifest_line_stays;
UPDATE manifest_line u SET undoes = l.line
    FROM manifest m JOIN manifest o ON o.id = m.undo_of AND o.state = 'partly undone'
    JOIN manifest_line l ON l.manifest = o.id AND l.kind = 'place' AND l.problem IS NULL
    WHERE u.manifest = m.id AND u.kind = 'place' AND u.entry = l.entry;
ALTER TABLE manifest_line ENABLE TRIGGER manifest_line_stays;

-- The lines that were taken back. Where that was undone in turn, they were done again by a manifest of its own.
CREATE VIEW line_undone AS
    SELECT m.undo_of AS manifest, w.undoes AS line FROM manifest m JOIN manifest_line w ON w.manifest = m.id
    WHERE m.undo_of IS NOT NULL AND m.state IN ('done', 'partly done', 'undoing', 'undone', 'partly undone')
      AND w.undoes IS NOT NULL AND w.problem IS NULL;
GRANT SELECT ON line_undone TO waka_app;

-- The fourth step took along what runs as a whole did not do, for a while.
DELETE FROM document_trail t USING manifest m WHERE m.id = t.manifest AND NOT m.partial AND m.state IN ('stopped', 'failed');
