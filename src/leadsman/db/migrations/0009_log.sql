-- What is seen, measured, moved and mended on the real line. An entry is made on a phone, with its own id and time, and
-- never changed afterwards: a correction is an entry of its own that names the one it corrects. So entries may come in
-- any order and any number of times, from any number of phones, and none is lost.

CREATE TABLE log_entry (
    id          uuid NOT NULL,
    design_id   uuid NOT NULL,
    kind        text NOT NULL,
    part        text,
    part_name   text,
    happened_at timestamptz NOT NULL,
    received_at timestamptz NOT NULL DEFAULT now(),
    who         text NOT NULL DEFAULT '',
    said        text NOT NULL DEFAULT '',
    figures     jsonb NOT NULL DEFAULT '{}',
    corrects    uuid,
    CONSTRAINT log_entry_key PRIMARY KEY (id),
    CONSTRAINT log_entry_of_a_design FOREIGN KEY (design_id) REFERENCES design (id) ON DELETE CASCADE,
    CONSTRAINT log_entry_kind_known
        CHECK (kind IN ('note', 'step', 'timing', 'gauge', 'level', 'look', 'mend', 'move', 'service', 'trip')),
    CONSTRAINT log_entry_not_of_the_future CHECK (happened_at <= received_at + interval '1 day'),
    CONSTRAINT log_entry_figures_are_an_object CHECK (jsonb_typeof(figures) = 'object'),
    CONSTRAINT log_entry_does_not_correct_itself CHECK (corrects <> id)
);

CREATE INDEX log_entry_newest_of_design ON log_entry (design_id, happened_at DESC, id);
CREATE INDEX log_entry_of_part ON log_entry (design_id, part, happened_at DESC, id);
