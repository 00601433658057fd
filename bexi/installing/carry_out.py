"""Doing a plan: all of it, or nothing."""

from collections.abc import Callable, Sequence

from bexi.core.errors import HostRefused, InstallRefused
from bexi.hosts.protocol import Host
from bexi.installing.plan import InstallPlan, Step


def carry_out(host: Host, plan: InstallPlan, on_step: Callable[[Step], None] = lambda step: None) -> None:
    """Do every step of a plan; calls `on_step` after each.

    Raises InstallRefused when the site is no longer as the plan saw it (nothing is touched then), or when a step
    fails (what was done is put back then).
    """
    _refuse_changed(host, plan.steps)
    done: list[Step] = []
    for step in plan.changes:
        try:
            _put(host, step.path, step.after)
        except HostRefused as refusal:
            _put_back(host, done, refusal)
        done.append(step)
        on_step(step)


def carry_out_undo(host: Host, plan: InstallPlan, on_step: Callable[[Step], None] = lambda step: None) -> None:
    """Do a plan of reverse steps; what is back already, after an interrupted installation, counts as done."""
    still = tuple(step for step in plan.changes if host.read(step.path) != step.after)
    carry_out(host, InstallPlan(still), on_step)


def _refuse_changed(host: Host, steps: Sequence[Step]) -> None:
    changed = [step.path for step in steps if host.read(step.path) != step.before]
    if changed:
        raise InstallRefused(
            "site-changed",
            f"Changed since then: {', '.join(changed[:5])}{' and more' if len(changed) > 5 else ''}. "
            "Nothing was touched. Look at these files, then plan again.",
        )


def _put(host: Host, path: str, data: bytes | None) -> None:
    if data is None:
        host.delete(path)
    else:
        host.write(path, data)


def _put_back(host: Host, done: Sequence[Step], cause: HostRefused) -> None:
    stuck = []
    for step in reversed(done):
        try:
            _put(host, step.path, step.before)
        except HostRefused:
            stuck.append(step.path)
    if stuck:
        raise InstallRefused(
            "put-back-incomplete",
            f"{cause.sentence} Putting back did not work for {', '.join(stuck)}; undo this installation "
            "from the history when the host answers again.",
        ) from cause
    raise InstallRefused("put-back", f"{cause.sentence} Everything was put back as it was.") from cause
