"""The processes in which icons are encoded, shared by all that is asked of this process."""

from django.conf import settings

from bexi.core.iconset.processes import Processes

processes = Processes(settings.ENCODING_PROCESSES)
