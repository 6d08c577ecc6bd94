"""The web interface's server: thin routes over core and database."""
