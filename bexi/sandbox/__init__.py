"""Work on bytes from outside, done in processes of its own: bounded in time and memory, apart from all else."""

from bexi.sandbox.children import SECONDS, in_sandbox

__all__ = ["SECONDS", "in_sandbox"]
