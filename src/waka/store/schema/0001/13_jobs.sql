-- The queue.

-- Work is taken by turns among persons, so that nobody's pile holds up the others; what takes long has a lane of its own,
-- and the pages after the first that are to be recognised come after everybody's first ones.
CREATE TABLE job (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    kind        text NOT NULL,
    payload     jsonb NOT NULL,
    state       text NOT NULL DEFAULT 'queued' CHECK (state IN ('queued', 'running', 'done', 'failed')),
    attempts    integer NOT NULL DEFAULT 0,
    lease_until timestamptz,
    worker      bigint,                           -- who has it in hand; what is written for it is written under that
    run_at      timestamptz NOT NULL DEFAULT now(),
    problem     text,
    made_at     timestamptz NOT NULL DEFAULT now(),
    person      bigint NOT NULL DEFAULT 0,        -- whose turn it waits for; 0 is the house itself
    lane        text NOT NULL DEFAULT 'quick' CHECK (lane IN ('quick', 'slow', 'pages'))
);
CREATE INDEX job_waiting ON job (person, run_at, id) WHERE state IN ('queued', 'running');
CREATE INDEX job_kind_waiting ON job (kind, run_at, id) WHERE state IN ('queued', 'running');

-- When each person's work was last taken up; 0 is the house itself.
CREATE TABLE job_turn (
    person bigint PRIMARY KEY,
    at     timestamptz NOT NULL DEFAULT 'epoch'
);
CREATE INDEX job_turn_at ON job_turn (at, person);
INSERT INTO job_turn (person) VALUES (0);

-- Worker processes, each with a number of its own: when it last said that it is there, and which of its loops broke off.
CREATE TABLE worker (
    id       bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    slot     text NOT NULL,
    at       timestamptz NOT NULL DEFAULT now(),
    troubles jsonb NOT NULL DEFAULT '[]'
);
