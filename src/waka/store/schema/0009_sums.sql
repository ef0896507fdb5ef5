-- The lines of a long manifest, added up when they were written: what runs it need not go through them for that.
-- A manifest without rows here has none kept; then its lines are added up when that is asked.
CREATE TABLE line_sum (
    manifest    bigint NOT NULL,
    kind        text NOT NULL,
    from_parent bigint,
    to_parent   bigint,
    lines       integer NOT NULL
);
CREATE INDEX line_sum_manifest ON line_sum (manifest);
GRANT SELECT, INSERT, DELETE ON line_sum TO waka_app;

-- Lines are written for good once their manifest has run. What was added up of a plan's lines goes when any of them changes.
DROP TRIGGER manifest_line_stays ON manifest_line;
CREATE OR REPLACE FUNCTION manifest_line_stays() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    ran bigint;
BEGIN
    SELECT id INTO ran FROM manifest WHERE id IN (SELECT manifest FROM changed) AND state NOT IN ('planned', 'checked') LIMIT 1;
    IF FOUND THEN
        RAISE EXCEPTION 'the lines of manifest % are written for good', ran USING ERRCODE = 'insufficient_privilege';
    END IF;
    DELETE FROM line_sum WHERE manifest IN (SELECT manifest FROM changed);
    RETURN NULL;
END $$;
CREATE TRIGGER manifest_line_stays AFTER UPDATE ON manifest_line
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION manifest_line_stays();
CREATE TRIGGER manifest_line_stays_there AFTER DELETE ON manifest_line
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION manifest_line_stays();
