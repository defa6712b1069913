"""Addresses: sign-in and administration by Django's views, the API, and the one page that holds the application."""

from django.contrib import admin
from django.contrib.auth.views import LogoutView
from django.urls import path, re_path
from django.views.generic import RedirectView

from server.api import api
from server.health import alive, numbers, ready
from server.pages import application, sign_in_style
from server.sign_in import SignIn, invited, to_sign_in

urlpatterns = [
    path("healthz", alive),
    path("readyz", ready),
    path("metrics", numbers),
    path("sign-in/", SignIn.as_view(), name="sign-in"),
    path("sign-in/style.css", sign_in_style),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("invited/<str:secret>", invited, name="invited"),
    # one page to sign in, behind its limits, and one to change a password
    path("administration/login/", to_sign_in),
    path("administration/password_change/", RedirectView.as_view(url="/account")),
    path("administration/", admin.site.urls),
    path("api/", api.urls),
    re_path(r"^(?:projects/.*|office|account)?$", application),
]
