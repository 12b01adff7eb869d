"""What port work wears out: rolls, flaps and carbides, counted on the pass that wore them, and what the rest will."""

from collections.abc import Mapping, Sequence
from math import ceil

from elvarn.core.port.schedule import rest_of
from elvarn.service.port.recipes import Recipe, passes_in
from elvarn.store.models import PortPass


def worn_words(recipe: Recipe, rows: Sequence[PortPass], missing: Mapping[str, int], logged: Sequence[PortPass]) -> str:
    """What was worn out in this stage, tool by tool, and what the rest will wear by the shop's own log. Where nothing
    was ever counted nothing is said."""
    tools = {name: one.name for name, one in passes_in(recipe)}
    spent: dict[str, int] = {}
    for row in rows:
        if row.worn:
            spent[tools.get(row.round, row.round)] = spent.get(tools.get(row.round, row.round), 0) + row.worn
    counted = {row.part_state_id for row in logged if row.worn}  # stages in which anybody counted
    logged = [row for row in logged if row.part_state_id in counted]
    words = [f"worn out {', '.join(f'{count} × {tool}' for tool, count in spent.items())}"] if spent else []
    needs = [
        f"{ceil(amount - 1e-9)} × {tool}"
        for tool in dict.fromkeys(tools.values())
        if (amount := _needed(tool, tools, missing, logged)) > 0
    ]
    if needs:
        passes = f"{len(logged)} logged pass{'es' if len(logged) > 1 else ''}"
        words.append(f"the rest wears about {', '.join(needs)}, from {passes}")
    return " · ".join(words)


def _needed(tool: str, tools: Mapping[str, str], missing: Mapping[str, int], logged: Sequence[PortPass]) -> float:
    rounds = {name: count for name, count in missing.items() if tools[name] == tool}
    counts: dict[str, list[float]] = {}
    for row in logged:
        if row.round in rounds:
            counts.setdefault(row.round, []).append(float(row.worn))
    return rest_of(rounds, counts, {}).amount
