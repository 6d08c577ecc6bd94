-- What lies under a design's plan: a height model, and a picture pinned to known points. Neither is part of the document.

CREATE TABLE height_model (
    design_id uuid PRIMARY KEY,
    model     jsonb NOT NULL,
    kept_at   timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT height_model_of_a_design FOREIGN KEY (design_id) REFERENCES design (id) ON DELETE CASCADE
);

CREATE TABLE picture (
    design_id uuid PRIMARY KEY,
    mime      text NOT NULL,
    data      bytea NOT NULL,
    pins      jsonb NOT NULL,
    kept_at   timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT picture_of_a_design FOREIGN KEY (design_id) REFERENCES design (id) ON DELETE CASCADE,
    CONSTRAINT picture_kind_known CHECK (mime IN ('image/png', 'image/jpeg', 'image/webp')),
    CONSTRAINT picture_not_too_large CHECK (octet_length(data) <= 24000000)
);

-- Who saved a revision, as they call themselves, and a name that somebody gave it.
ALTER TABLE revision
    ADD COLUMN saved_by text NOT NULL DEFAULT '',
    ADD COLUMN label    text NOT NULL DEFAULT '',
    ADD CONSTRAINT revision_saver_short CHECK (char_length(saved_by) <= 60),
    ADD CONSTRAINT revision_label_short CHECK (char_length(label) <= 120);
