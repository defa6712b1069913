"""The API. Every route needs a signed-in user; every project route asks whose the project is."""

from __future__ import annotations

import logging
from typing import Any

from django.contrib.admin.views.decorators import staff_member_required
from django.db import InterfaceError, InternalError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.openapi.schema import OpenAPISchema
from ninja.security import SessionAuth

from engine.errors import ModelError
from server.api import chains, dossiers, library, members, office, people, projects, returned, sharing, slabs, studies
from server.api.access import user_of
from server.people.roles import Forbidden, title_of
from server.projects import builds, people_schemas, revisions, runs, schemas
from server.reading import JsonParser

_log = logging.getLogger(__name__)

#: what any route may answer in place of what was asked for
REFUSALS = {
    401: "Nobody is signed in",
    403: "The user may not do that, or the CSRF token is missing",
    404: "There is nothing of this kind among what is the user's",
    422: "Refused, with the reason and the place",
    500: "A fault of the server",
    503: "The database does not answer",
}


class Described(NinjaAPI):
    """The API, with its refusals in its description."""

    def get_openapi_schema(self, **given: Any) -> OpenAPISchema:
        """The description; every operation may refuse."""
        schema = super().get_openapi_schema(**given)
        problem = {"application/json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for methods in schema["paths"].values():
            for operation in methods.values():
                for status, words in REFUSALS.items():
                    operation["responses"].setdefault(status, {"description": words, "content": problem})
        _whole_answers(schema)
        return schema


def _whole_answers(schema: OpenAPISchema) -> None:
    """What is only answered, never asked with, comes whole: every property of it is there."""
    known = schema["components"]["schemas"]
    asked: set[str] = set()
    ahead = [
        op["requestBody"] for methods in schema["paths"].values() for op in methods.values() if "requestBody" in op
    ]
    while ahead:
        part = ahead.pop()
        if isinstance(part, list):
            ahead += part
        elif isinstance(part, dict):
            name = str(part.get("$ref", "")).rpartition("/")[2]
            if name and name not in asked:
                asked.add(name)
                ahead.append(known[name])
            ahead += part.values()
    for name, answered in known.items():
        if name not in asked and "properties" in answered:
            answered["required"] = list(answered["properties"])


class SignedIn(SessionAuth):
    """Whoever is signed in, while this build serves the database."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """The user. Raises Replaced."""
        if builds.replaced():
            raise builds.Replaced
        return super().authenticate(request, key)


api = Described(
    title="Lorica",
    version="1",
    auth=SignedIn(),
    docs_url="/docs",
    openapi_url="/openapi.json",
    docs_decorator=staff_member_required,
    parser=JsonParser(),
)
api.add_router("", library.router)
api.add_router("", office.router)
api.add_router("", projects.router)
api.add_router("", chains.router)
api.add_router("", members.router)
api.add_router("", slabs.router)
api.add_router("", dossiers.router)
api.add_router("", studies.router)
api.add_router("", returned.router)
api.add_router("", people.router)
api.add_router("", sharing.router)


def _problem(request: HttpRequest, status: int, message: str, place: str = "") -> HttpResponse:
    return api.create_response(request, {"message": message, "place": place}, status=status)


@api.exception_handler(ModelError)
def _model_error(request: HttpRequest, error: ModelError) -> HttpResponse:
    return _problem(request, 422, error.message, error.place)


@api.exception_handler(runs.Overtaken)
def _overtaken(request: HttpRequest, error: runs.Overtaken) -> HttpResponse:
    # nothing went wrong: the page asks anew about what stands
    return HttpResponse(status=204)


@api.exception_handler(Forbidden)
def _forbidden(request: HttpRequest, error: Forbidden) -> HttpResponse:
    return _problem(request, 403, error.message)


@api.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    # what the parser of bodies says is raised anew, without its words
    told = error.__cause__ if isinstance(error.__cause__, HttpError) else error
    return _problem(request, told.status_code, told.message)


@api.exception_handler(AuthenticationError)
def _unknown(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return _problem(request, 401, "Nobody is signed in.")


@api.exception_handler(ValidationError)
def _unread(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    # the first two parts say where the request was read, not what is wrong with it
    place = ".".join(str(part) for part in first["loc"][2 if first["loc"][:1] == ("body",) else 1 :])
    words = f"{place}: {str(first['msg']).removeprefix('Value error, ')[:1].lower()}{str(first['msg']).removeprefix('Value error, ')[1:]}."
    return _problem(request, 422, words, place)


@api.exception_handler(Http404)
def _nothing(request: HttpRequest, error: Http404) -> HttpResponse:
    return _problem(request, 404, "There is nothing of this kind among what is yours.")


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
@api.exception_handler(InternalError)
def _no_database(request: HttpRequest, error: Exception) -> HttpResponse:
    """The database is away, or could not write; its transaction is undone."""
    _log.error("the database failed", exc_info=error)
    reason = str(error).strip().split("\n")[0]
    full = any(words in reason for words in ("No space left", "could not extend", "could not write", "File too large"))
    return _problem(
        request, 503, "The database cannot write (is its disk full?)." if full else "The database does not answer."
    )


@api.exception_handler(builds.Replaced)
def _replaced(request: HttpRequest, error: builds.Replaced) -> HttpResponse:
    return _problem(request, 503, builds.OTHER)


@api.exception_handler(revisions.Conflict)
def _conflict(request: HttpRequest, conflict: revisions.Conflict) -> HttpResponse:
    author = conflict.head.author.get_username() if conflict.head.author else "somebody"
    answer = schemas.ConflictOut(
        message=f"{author} made revision {conflict.head.number} meanwhile (“{conflict.head.label}”). Nothing was changed.",
        number=conflict.head.number,
        author=author,
        differences=[schemas.DifferenceOut(**vars(d)) for d in conflict.differences],
    )
    return api.create_response(request, answer.model_dump(), status=409)


@api.exception_handler(Exception)
def _broken(request: HttpRequest, error: Exception) -> HttpResponse:
    """A fault of ours: told in the log with its traceback, and here without."""
    number = getattr(request, "number", "")
    _log.error("request %s broke down", number, exc_info=error)
    return _problem(request, 500, f"This broke down in the server; its log tells more of request {number}.")


@api.get("/me", response=people_schemas.Me)
def me(request: HttpRequest) -> Any:
    """Who is signed in."""
    return people_schemas.Me(name=user_of(request).get_username(), role=title_of(user_of(request)))
