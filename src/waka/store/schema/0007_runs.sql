-- Of all manifests, the few that are long, under way, planned or not wholly done: they are listed by themselves.
CREATE INDEX manifest_runs ON manifest (id) WHERE state NOT IN ('done', 'undone') OR lines > 300;
