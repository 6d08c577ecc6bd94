"""Rules and computation: no web framework, no database, no files (but the catalogue's), no clock."""
