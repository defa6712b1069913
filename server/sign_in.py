"""Signing in and accepting an invitation, behind limits on wrong passwords (django-axes) and on how many are checked at once."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import BoundedSemaphore
from typing import Any

from django.contrib.auth import login
from django.contrib.auth.views import LoginView
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from engine.errors import ModelError
from server.people import accounts

#: passwords that one process checks at once: hashing is heavy on purpose
_gate = BoundedSemaphore(1)
#: seconds that a sign-in waits for its turn
TURN = 20.0
BUSY = "Many people sign in at this moment. Try again in a few seconds."


class SignIn(LoginView):
    """The sign-in page."""

    template_name = "sign_in.html"
    redirect_authenticated_user = True

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """Sign in, one at a time."""
        with turn() as mine:
            if not mine:
                context = self.get_context_data(form=self.get_form_class()(), refusal=BUSY)
                return render(request, self.template_name, context, status=503)
            return super().post(request, *args, **kwargs)


@contextmanager
def turn() -> Iterator[bool]:
    """Whether one's turn to have a password checked or made has come."""
    mine = _gate.acquire(timeout=TURN)
    try:
        yield mine
    finally:
        if mine:
            _gate.release()


@require_http_methods(["GET", "POST"])
def invited(request: HttpRequest, secret: str) -> HttpResponse:
    """The page behind a link of invitation: a name and a password, or a new password alone."""
    found = accounts.invitation_of(secret)
    context: dict[str, Any] = {"invitation": found, "name": request.POST.get("name", "")}
    if found is None:
        return render(request, "invited.html", context, status=404)
    if request.method == "GET":
        return render(request, "invited.html", context)
    password = request.POST.get("password", "")
    if password != request.POST.get("again", ""):
        return render(request, "invited.html", context | {"refusal": "The two passwords differ."}, status=422)
    with turn() as mine:
        if not mine:
            return render(request, "invited.html", context | {"refusal": BUSY}, status=503)
        try:
            user = accounts.accept(secret, context["name"], password)
        except ModelError as error:
            return render(request, "invited.html", context | {"refusal": error.message}, status=422)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return redirect("/")


def to_sign_in(request: HttpRequest) -> HttpResponse:
    """Where Django's administration sends who is not signed in, or no administrator."""
    return redirect("/" if request.user.is_authenticated else "/sign-in/?next=/administration/")


def locked_out(request: HttpRequest, credentials: dict[str, Any] | None = None, *_: Any, **__: Any) -> HttpResponse:
    """What is said after too many wrong passwords."""
    from django.conf import settings

    minutes = settings.AXES_COOLOFF_TIME.total_seconds() / 60
    words = f"Too many wrong passwords for this name from here. Try again in {minutes:.0f} minutes."
    return render(request, "sign_in.html", {"refusal": words, "next": request.POST.get("next", "")}, status=429)
