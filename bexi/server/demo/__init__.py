"""The demo: invented sites and artwork, made by script."""
