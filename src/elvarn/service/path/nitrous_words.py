"""A nitrous plate or its nozzles in a path: what it takes while it is off, what it is said to give, and its dangers."""

from collections.abc import Iterator

from elvarn.core.finding import Grade
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.sentences import Sentence, sentence
from elvarn.service.record.solved import SolvedPath, absolute_at_plenum

CAUTION = (
    "Nitrous only with fuel system, ignition and parts made for it, fitted by a qualified person. Never armed on a "
    "start, at idle or part throttle; bottle upright, vented outside, away from heat. "
    "Check the local code and the class."
)


def about_nitrous(path: SolvedPath) -> Iterator[Sentence]:
    """Off: the drop that it costs, and the share of the air. On: only what is stated, for nothing of it is computed."""
    places = [n for n, node in enumerate(path.nodes) if node.element_kind == ElementKind.NITROUS]
    if not places:
        return
    yield from _off(path, places)
    stated = {facts.part.id: facts for place in places if (facts := path.known[place])}
    given = [facts.features.nitrous_kw for facts in stated.values() if facts.features.nitrous_kw]
    on = f"On, its jets are said to give {sum(given):.0f} kW; that is not computed here." if given else (
        "On: nobody stated what its jets give, and it is not computed here."
    )  # fmt: skip
    yield sentence(on, Grade.RULE, "doubt", action="Pull it off and on as two builds.")
    yield sentence(CAUTION, Grade.RULE, "harm")


def _off(path: SolvedPath, places: list[int]) -> Iterator[Sentence]:
    rows = [row for row in path.losses.rows if set(row.row.places) & set(places)] if path.losses else []
    drops = [row.drop for row in rows if row.drop is not None]
    if not drops:
        yield sentence("Nitrous off: what its plate or nozzles take isn't known.", Grade.RULE, "doubt",
                       action="Flow it, or measure its bore.")  # fmt: skip
        return
    percent = 100 * sum(drops) / absolute_at_plenum(path)
    text = (
        f"Nitrous off: its plate or nozzles take {sum(drops) / 1000:.2f} kPa at {path.rpm} rpm, about {percent:.1f} %"
    )
    yield sentence(f"{text} of the air and of the power.", Grade.ESTIMATED)
