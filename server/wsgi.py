"""Entry point of the web server."""

import os

from django.core.wsgi import get_wsgi_application

from engine.memory import settle

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()
settle()
