-- A photo belongs to an entry of the log of kind "photo" and, like it, is never changed. It is kept as drawn anew, without
-- what the camera wrote into its file; where it was taken only where that was wanted. `sent_hash` tells the same photo
-- sent twice from another one.

CREATE TABLE photo (
    entry_id      uuid PRIMARY KEY,
    sent_hash     bytea NOT NULL,
    data          bytea NOT NULL,
    small         bytea NOT NULL,
    latitude_deg  double precision,
    longitude_deg double precision,
    kept_at       timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT photo_of_an_entry FOREIGN KEY (entry_id) REFERENCES log_entry (id) ON DELETE CASCADE,
    CONSTRAINT photo_place_is_whole CHECK ((latitude_deg IS NULL) = (longitude_deg IS NULL)),
    CONSTRAINT photo_not_too_large CHECK (octet_length(data) + octet_length(small) <= 24000000)
);

ALTER TABLE log_entry
    DROP CONSTRAINT log_entry_kind_known,
    ADD CONSTRAINT log_entry_kind_known CHECK (
        kind IN ('note', 'step', 'timing', 'gauge', 'level', 'look', 'mend', 'move', 'service', 'trip', 'photo'));
