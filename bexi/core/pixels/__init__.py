"""Colour and resampling arithmetic on arrays of pixels."""
