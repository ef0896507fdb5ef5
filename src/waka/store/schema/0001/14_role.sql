-- The application's role: everything but changing what was written down for good. Then the root of the drive.

GRANT USAGE ON SCHEMA public TO waka_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO waka_app;
GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO waka_app;
REVOKE UPDATE, DELETE ON line_failure, plan_revision, party_revision, tree_template_revision, rulebook_revision, document_trail, outbox, office_trail FROM waka_app;
REVOKE UPDATE ON line_sum, empty_name FROM waka_app;
REVOKE DELETE ON manifest FROM waka_app;

-- The root of the drive: it holds the areas and has no entry of its own.
INSERT INTO access_class (folders) VALUES ('{1}');
INSERT INTO folder (id, access_class) VALUES (nextval('folder_id'), (SELECT id FROM access_class));
INSERT INTO folder_closure VALUES (1, 1, 0);
