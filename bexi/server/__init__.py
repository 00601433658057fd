"""The Django project: the web face of Bexi."""
