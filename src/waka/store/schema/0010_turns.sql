-- Work is taken by turns among persons, so that nobody's pile holds up the others; what takes long has a lane of its own.
ALTER TABLE job
    ADD COLUMN person bigint NOT NULL DEFAULT 0,
    ADD COLUMN lane text NOT NULL DEFAULT 'quick' CHECK (lane IN ('quick', 'slow'));
DROP INDEX job_waiting;
CREATE INDEX job_waiting ON job (person, run_at, id) WHERE state IN ('queued', 'running');
CREATE INDEX job_kind_waiting ON job (kind, run_at, id) WHERE state IN ('queued', 'running');

-- When each person's work was last taken up; 0 is the house itself.
CREATE TABLE job_turn (
    person bigint PRIMARY KEY,
    at     timestamptz NOT NULL DEFAULT 'epoch'
);
CREATE INDEX job_turn_at ON job_turn (at, person);
INSERT INTO job_turn (person) VALUES (0);

-- How workers are: when one last said that it is there, and which of its loops broke off.
CREATE TABLE worker_state (
    name     text PRIMARY KEY,
    at       timestamptz NOT NULL DEFAULT now(),
    troubles jsonb NOT NULL DEFAULT '[]'
);

-- Log-ins are counted before the password is looked at: by name, by address, and by a browser that was logged in before.
DROP TABLE login_failure;
CREATE TABLE login_try (
    counted text PRIMARY KEY,
    tries   integer NOT NULL,
    at      timestamptz NOT NULL DEFAULT now(),
    free_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX login_try_at ON login_try (at);
CREATE TABLE known_browser (
    token_hash bytea NOT NULL,
    person     bigint NOT NULL REFERENCES person,
    seen_at    timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (token_hash, person)
);

GRANT SELECT, INSERT, UPDATE, DELETE ON job_turn, worker_state, login_try, known_browser TO waka_app;
