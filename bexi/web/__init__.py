"""Asking live sites over the web."""
