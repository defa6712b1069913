"""Entry point of the web processes."""

import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
# connections that requests share, in place of one for every thread
os.environ.setdefault("LORICA_CONNECTIONS", "12")

from django.core.asgi import get_asgi_application

from engine.memory import settle
from server.bodies import bounded

application = bounded(get_asgi_application())
settle()
