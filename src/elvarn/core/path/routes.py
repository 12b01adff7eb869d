"""The way of the air to each cylinder: what it passes one after the other, and with whom it shares it."""

from collections.abc import Sequence
from dataclasses import dataclass

from elvarn.core.errors import Inconsistent
from elvarn.core.path.tree import Branches, Element, ElementKind, Node, Series


@dataclass(frozen=True)
class Stage:
    """One element, or ducts side by side that join again; the cylinders whose air passes it.

    `smoothed` tells that a plenum lies between it and the cylinders, so that their strokes do not reach it.
    """

    ducts: tuple[tuple[int, ...], ...]  # of each duct the elements in series, by their place in the tree
    cylinders: tuple[int, ...]
    smoothed: bool


@dataclass(frozen=True)
class Routes:
    """The stages to each cylinder, and the tree's elements by their place."""

    elements: tuple[Element, ...]
    stages: dict[int, tuple[Stage, ...]]

    @property
    def cylinders(self) -> tuple[int, ...]:
        return tuple(sorted(self.stages))

    def every_stage(self) -> list[Stage]:
        """Each stage once, in the order of the air."""
        found: dict[tuple[tuple[int, ...], ...], Stage] = {}
        for number in self.cylinders:
            for stage in self.stages[number]:
                found.setdefault(stage.ducts, stage)
        return sorted(found.values(), key=lambda stage: stage.ducts[0][0])


def routes(tree: Node) -> Routes:
    """The way of the air to each cylinder.

    Arguments: tree: of the air path.
    Returns: routes; places count the elements in the order of `tree.elements`.
    Raises: Inconsistent for a branch that ends at no cylinder.
    Source: none.
    """
    found: list[Element] = []
    stages = _walk(tree, found, ())
    if None in stages:
        raise Inconsistent("tree", "The air path ends at no cylinder.", "Add its runners.")
    return Routes(tuple(found), {number: tuple(way) for number, way in stages.items() if number is not None})


_Ways = dict[int | None, list[Stage]]


def _walk(node: Node, found: list[Element], behind: Sequence[Node]) -> _Ways:
    """Ways through a node, by cylinder; None stands for air that goes on to what is behind the node."""
    cylinders = _cylinders(node) or tuple(n for following in behind for n in _cylinders(following))
    smoothed = any(_has_plenum(following) for following in behind)
    if isinstance(node, Element):
        found.append(node)
        own = (node.cylinder,) if node.cylinder is not None and not _leads_on(behind) else cylinders
        stage = Stage(((len(found) - 1,),), own, smoothed)
        return {node.cylinder if not _leads_on(behind) else None: [stage]}
    if isinstance(node, Series):
        return _walk_series(node, found, behind)
    if not _cylinders(node) or _leads_on(behind):
        return {None: [Stage(_ducts(node, found), cylinders, smoothed)]}
    ways: _Ways = {}
    for child in node.nodes:
        ways.update(_walk(child, found, behind))
    return ways


def _walk_series(node: Series, found: list[Element], behind: Sequence[Node]) -> _Ways:
    ways: _Ways = {None: []}
    for index, child in enumerate(node.nodes):
        following = (*node.nodes[index + 1 :], *behind)
        before = ways.pop(None)
        for number, way in _walk(child, found, following).items():
            ways[number] = [*before, *way]
    return ways


def _ducts(node: Branches, found: list[Element]) -> tuple[tuple[int, ...], ...]:
    """Ducts side by side; a branching inside a duct counts as the duct's elements in series."""
    ducts = []
    for child in node.nodes:
        first = len(found)
        _collect(child, found)
        ducts.append(tuple(range(first, len(found))))
    return tuple(ducts)


def _collect(node: Node, found: list[Element]) -> None:
    if isinstance(node, Element):
        found.append(node)
    else:
        for child in node.nodes:
            _collect(child, found)


def _leads_on(behind: Sequence[Node]) -> bool:
    return len(behind) > 0


def _cylinders(node: Node) -> tuple[int, ...]:
    if isinstance(node, Element):
        return () if node.cylinder is None else (node.cylinder,)
    numbers = [number for child in node.nodes for number in _cylinders(child)]
    return tuple(dict.fromkeys(numbers))


def _has_plenum(node: Node) -> bool:
    if isinstance(node, Element):
        return node.kind is ElementKind.PLENUM
    return any(_has_plenum(child) for child in node.nodes)
