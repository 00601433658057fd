"""`bexi plans`."""

import json

from bexi.cli.speaking import JsonOption
from bexi.core.iconset.plan import READY_MADE, RECOMMENDED


def plans_command(as_json: JsonOption = False) -> None:
    """List the ready-made plans and their files."""
    if as_json:
        print(json.dumps({name: plan.as_json() for name, plan in READY_MADE.items()}, indent=2))
        return
    for name, plan in READY_MADE.items():
        print(f"{name}{' (recommended)' if plan is RECOMMENDED else ''}")
        for spec in plan.specs:
            print(f"  {spec.name:<32}{spec.currency.value:<15}{spec.title}")
