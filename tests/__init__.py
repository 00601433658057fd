"""The tests. Properties are tried on the same cases at every run; HYPOTHESIS_PROFILE=default looks for new ones."""

import os

from hypothesis import settings

settings.register_profile("same", derandomize=True)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "same"))
