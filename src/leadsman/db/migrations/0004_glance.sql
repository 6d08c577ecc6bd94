-- What a list of plans shows of a revision, so that it opens no document: names as they stand in the document, and how
-- the plan stands, once that was judged. A revision never changes, and so neither does its verdict.

ALTER TABLE revision
    ADD COLUMN site_name text GENERATED ALWAYS AS (document -> 'site' ->> 'name') STORED,
    ADD COLUMN name      text GENERATED ALWAYS AS (document ->> 'name') STORED,
    ADD COLUMN findings  integer,
    ADD COLUMN glance    jsonb,
    ADD CONSTRAINT revision_findings_counted CHECK (findings >= 0),
    ADD CONSTRAINT revision_judged_whole CHECK ((findings IS NULL) = (glance IS NULL));

ALTER TABLE design ADD COLUMN saved_at timestamptz NOT NULL DEFAULT now();

UPDATE design SET saved_at = revision.saved_at
FROM revision WHERE revision.design_id = design.id AND revision.number = design.head_number;

CREATE INDEX design_last_saved_first ON design (saved_at DESC, id DESC);
