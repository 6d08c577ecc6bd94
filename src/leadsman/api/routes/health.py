"""Whether the server and its database are up: 503 where the database is not."""

from flask import Response
from psycopg import Error

from leadsman.api.routes import Routes, answer, database
from leadsman.api.schemas import Health

health = Routes("health", __name__, url_prefix="/api/health")


@health.get("", operation_id="readHealth", responses={200: Health, 503: Health})
def read_health() -> Response:
    """Say whether the database answers."""
    try:
        with database().transaction() as connection:
            connection.execute("SELECT 1")
    except Error:
        return answer(Health(status="up", database=False), 503)
    return answer(Health(status="up", database=True))
