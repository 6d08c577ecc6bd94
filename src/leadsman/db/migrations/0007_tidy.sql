-- Old autosaves are thinned out: what was edited from a revision is found without reading them all.

CREATE INDEX revision_by_parent ON revision (design_id, parent_number);
