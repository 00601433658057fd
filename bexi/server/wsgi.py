"""The WSGI entry."""

import os

from django.core.wsgi import get_wsgi_application

from bexi.core.pixels.heap import share_heap

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bexi.server.settings")
share_heap()  # before there are threads
application = get_wsgi_application()
