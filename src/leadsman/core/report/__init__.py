"""What leaves the core: the JSON of the commands and of the API, in the document's units."""
