"""What artwork tells those who use it."""

from django.dispatch import Signal

read_anew = Signal()
"""Sent with an `artwork` that is read differently or is another file now, and its width and height `before`."""
