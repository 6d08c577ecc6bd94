"""PostgreSQL: connection, migrations, and one module of literal SQL for each noun."""
