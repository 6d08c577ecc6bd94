-- A deleted plan leaves the list and can be restored: nothing of it is lost. One that is saved again is back.

ALTER TABLE design ADD COLUMN deleted_at timestamptz;

DROP INDEX design_last_saved_first;
CREATE INDEX design_last_saved_first ON design (saved_at DESC, id DESC) WHERE deleted_at IS NULL;
CREATE INDEX design_last_deleted_first ON design (saved_at DESC, id DESC) WHERE deleted_at IS NOT NULL;
