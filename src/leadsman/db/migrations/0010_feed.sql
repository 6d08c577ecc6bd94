-- The key of a plan's calendar feed: who has the address reads the calendar, so the address has a secret in it. A new
-- key takes the place of the old one, and addresses with that one no longer answer.

CREATE TABLE feed (
    design_id uuid NOT NULL,
    key       text NOT NULL,
    made_at   timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT feed_key PRIMARY KEY (design_id),
    CONSTRAINT feed_of_a_design FOREIGN KEY (design_id) REFERENCES design (id) ON DELETE CASCADE,
    CONSTRAINT feed_key_long_enough CHECK (length(key) >= 20)
);
