"""Bexi: from a picture to the icons of a site."""
