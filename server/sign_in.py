"""Signing in, behind limits on wrong passwords (django-axes) and on how many are checked at once."""

from __future__ import annotations

from threading import BoundedSemaphore
from typing import Any

from django.contrib.auth.views import LoginView
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

#: passwords that one process checks at once: hashing is heavy on purpose
_gate = BoundedSemaphore(1)
#: seconds that a sign-in waits for its turn
TURN = 20.0


class SignIn(LoginView):
    """The sign-in page."""

    template_name = "sign_in.html"
    redirect_authenticated_user = True

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        """Sign in, one at a time."""
        if not _gate.acquire(timeout=TURN):
            busy = {"refusal": "Many people sign in at this moment. Try again in a few seconds."}
            return render(
                request, self.template_name, self.get_context_data(form=self.get_form_class()(), **busy), status=503
            )
        try:
            return super().post(request, *args, **kwargs)
        finally:
            _gate.release()


def locked_out(request: HttpRequest, credentials: dict[str, Any] | None = None, *_: Any, **__: Any) -> HttpResponse:
    """What is said after too many wrong passwords."""
    from django.conf import settings

    minutes = settings.AXES_COOLOFF_TIME.total_seconds() / 60
    words = f"Too many wrong passwords for this name from here. Try again in {minutes:.0f} minutes."
    return render(request, "sign_in.html", {"refusal": words, "next": request.POST.get("next", "")}, status=429)
