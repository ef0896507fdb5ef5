-- Whether an access class is among those that somebody reaches. Tens of thousands of them as an array made each query's plan cost
-- more than its rows; ranges are few, and the planner does not look into them.
CREATE FUNCTION reached(access_class bigint, classes int8multirange) RETURNS boolean LANGUAGE sql IMMUTABLE PARALLEL SAFE
    AS 'SELECT elem_contained_by_multirange(access_class, classes)';

-- What is worked out once for a person stays right until anybody reaches something else. Each change that alters this leaves a
-- random mark; all marks that one sees, added bit by bit, are the state that one sees. No two changes wait for each other by it (as
-- they would for one row that counts), none is missed whatever the order in which they end, and marks may be folded into one.
CREATE TABLE access_mark (mark bigint NOT NULL DEFAULT (random() * 9007199254740991)::bigint);
GRANT SELECT, INSERT, DELETE ON access_mark TO waka_app;

CREATE FUNCTION mark_access() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO access_mark DEFAULT VALUES;
    RETURN NULL;
END $$;
CREATE FUNCTION mark_changed_access() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF EXISTS (SELECT FROM changed) THEN
        INSERT INTO access_mark DEFAULT VALUES;
    END IF;
    RETURN NULL;
END $$;

CREATE TRIGGER more_access AFTER INSERT ON class_reader
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER other_access AFTER UPDATE ON class_reader
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER less_access AFTER DELETE ON class_reader
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER more_access AFTER INSERT ON person_principal
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER other_access AFTER UPDATE ON person_principal
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER less_access AFTER DELETE ON person_principal
    REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION mark_changed_access();
CREATE TRIGGER who_is_there AFTER INSERT OR DELETE OR UPDATE OF active, ends_on ON person
    FOR EACH STATEMENT EXECUTE FUNCTION mark_access();
CREATE TRIGGER none_left AFTER TRUNCATE ON class_reader FOR EACH STATEMENT EXECUTE FUNCTION mark_access();
CREATE TRIGGER none_left AFTER TRUNCATE ON person_principal FOR EACH STATEMENT EXECUTE FUNCTION mark_access();
CREATE TRIGGER none_left AFTER TRUNCATE ON person FOR EACH STATEMENT EXECUTE FUNCTION mark_access();
