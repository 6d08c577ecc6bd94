-- A save that is sent again, because its answer was lost, gets the same answer: which revision a save became.

CREATE TABLE answered_save (
    design_id uuid NOT NULL,
    save_id   uuid NOT NULL,
    number    integer NOT NULL,
    CONSTRAINT answered_save_key PRIMARY KEY (design_id, save_id),
    CONSTRAINT answered_save_is_a_revision FOREIGN KEY (design_id, number)
        REFERENCES revision (design_id, number) ON DELETE CASCADE
);

CREATE INDEX answered_save_by_revision ON answered_save (design_id, number);
