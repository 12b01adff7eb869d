"""What the margin of port work says beside the cut: what the plenum holds, and the work that has an order."""

from collections.abc import Iterator

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.core.port.order import Work, lacking
from elvarn.core.rail import Step
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.port.grid import Grid


def beside_the_cut(grid: Grid, preset: units.Preset) -> Iterator[Sentence]:
    """The plenum, then the list of other steps."""
    yield from _plenum(grid, preset)
    yield from _steps(grid)


def _plenum(grid: Grid, preset: units.Preset) -> Iterator[Sentence]:
    facts = grid.record.facts.get(grid.state.id)
    reading = facts.measured("plenum", "volume") if facts else None
    if reading is None:
        return
    shown = units.show(reading.value_si, "volume", preset)
    text = f"The plenum holds {shown.text} {shown.unit} as measured"
    if reading.part_state_id == grid.state.id:
        yield sentence(f"{text}.", Grade.MEASURED)
        return
    action = "Measure it again once they are done."
    yield sentence(f"{text} before this stage.", Grade.MEASURED, "doubt", "Shaped entries enlarge it.", action)


def _steps(grid: Grid) -> Iterator[Sentence]:
    rows = [task for task in grid.record.tasks if task.rail_step == Step.PORT]
    broken = [task for task in rows if task.doubts]
    if broken:
        text = f"Out of order: {broken[0].title.lower()} was done {listed(broken[0].doubts)}."
        yield sentence(text, Grade.RULE, "doubt", "", "Look at it again.")
    lacks = lacking({Work(task.work) for task in rows if task.work})
    if lacks:
        text = f"Not on the list of other steps: {listed([f'{work} (for: {why})' for work, why in lacks[:3]])}."
        yield sentence(text, Grade.RULE, "doubt", "", "Press O.")
