"""Addresses: sign-in by Django's views, the API, and the one page that holds the application."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path, re_path

from server.api import api
from server.pages import application, sign_in_style

urlpatterns = [
    path("sign-in/", LoginView.as_view(template_name="sign_in.html", redirect_authenticated_user=True), name="sign-in"),
    path("sign-in/style.css", sign_in_style),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("api/", api.urls),
    re_path(r"^(?:projects/.*)?$", application),
]
