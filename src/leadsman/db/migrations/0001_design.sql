-- Designs and their numbered revisions. A revision is one design document, never changed once written.
-- The head is the revision that people see; a save that came too late is kept beside it as a sibling.

CREATE TABLE design (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    demo_key    text CONSTRAINT design_demo_key_once UNIQUE,
    head_number integer NOT NULL,
    last_number integer NOT NULL,
    created_at  timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT design_head_is_a_past_number CHECK (head_number BETWEEN 1 AND last_number)
);

CREATE TABLE revision (
    design_id     uuid NOT NULL,
    number        integer NOT NULL,
    parent_number integer,
    standing      text NOT NULL,
    document      jsonb NOT NULL,
    saved_at      timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT revision_key PRIMARY KEY (design_id, number),
    CONSTRAINT revision_of_a_design FOREIGN KEY (design_id) REFERENCES design (id) ON DELETE CASCADE,
    CONSTRAINT revision_has_its_parent FOREIGN KEY (design_id, parent_number) REFERENCES revision (design_id, number),
    CONSTRAINT revision_number_counts_from_one CHECK (number >= 1),
    CONSTRAINT revision_parent_is_earlier CHECK (parent_number < number),
    CONSTRAINT revision_standing_known CHECK (standing IN ('kept', 'sibling')),
    CONSTRAINT revision_is_a_design CHECK (document ->> 'format' = 'leadsman-design')
);

ALTER TABLE design
    ADD CONSTRAINT design_head_exists FOREIGN KEY (id, head_number) REFERENCES revision (design_id, number)
    DEFERRABLE INITIALLY DEFERRED;
