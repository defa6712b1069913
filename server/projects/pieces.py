"""The pieces of stored chains, sent to and from PostgreSQL as they are: as text, as the ORM sends bytes, they are twice as long and
take six times as long."""

from __future__ import annotations

from django.db import connection, transaction
from psycopg import Cursor

from server.projects.models import ResultPart

#: bytes of a piece
PIECE = 32 << 20
_TABLE = ResultPart._meta.db_table


@transaction.atomic
def write(key: str, data: bytes) -> None:
    """In place of the pieces that the result of that key has."""
    ResultPart.objects.filter(result=key).delete()
    with Cursor(connection.connection) as cursor:
        for number, start in enumerate(range(0, len(data), PIECE)):
            cursor.execute(
                f"INSERT INTO {_TABLE} (result_id, number, data) VALUES (%s, %s, %b)",
                [key, number, data[start : start + PIECE]],
            )


def read(key: str) -> bytes:
    """The pieces of a result, put together."""
    connection.ensure_connection()
    with Cursor(connection.connection) as cursor:
        found = cursor.execute(f"SELECT data FROM {_TABLE} WHERE result_id = %s ORDER BY number", [key], binary=True)
        return b"".join(row[0] for row in found)
