-- Long runs: what was asked, how far it is, and its answer. The queue itself is that of procrastinate, whose tables
-- are made beside these (see db/queue_schema.py).
CREATE TABLE job (
    id uuid PRIMARY KEY,
    design_id uuid REFERENCES design (id) ON DELETE CASCADE,
    kind text NOT NULL,
    asked jsonb NOT NULL,
    state text NOT NULL DEFAULT 'waiting'
        CHECK (state IN ('waiting', 'running', 'done', 'failed', 'cancelled')),
    progress real NOT NULL DEFAULT 0 CHECK (progress BETWEEN 0 AND 1),
    tries integer NOT NULL DEFAULT 0,
    trouble text NOT NULL DEFAULT '',
    answer jsonb,
    asked_at timestamptz NOT NULL DEFAULT now(),
    ended_at timestamptz
);
CREATE INDEX job_of_design ON job (design_id);
CREATE INDEX job_asked_at ON job (asked_at);
