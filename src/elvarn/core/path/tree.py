"""The air path as a tree: elements in series, branches that split or join, from the inlets to the ports."""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.errors import Inconsistent


class ElementKind(StrEnum):
    """What the air passes."""

    INLET = "inlet"
    FILTER = "filter"
    TUBE = "tube"
    METER = "meter"
    THROTTLE = "throttle"
    ADAPTER = "adapter"
    RESTRICTOR = "restrictor"
    NITROUS = "nitrous"
    COMPRESSOR = "compressor"
    COOLER = "cooler"
    PLENUM = "plenum"
    RUNNER = "runner"
    HEAD = "head"


@dataclass(frozen=True)
class Element:
    """One element; a runner, head port or throttle that serves one cylinder names it. Banks are numbered from 1."""

    kind: ElementKind
    label: str
    cylinder: int | None = None
    bank: int | None = None


@dataclass(frozen=True)
class Series:
    """Nodes that the same air passes one after the other."""

    nodes: tuple["Node", ...]


@dataclass(frozen=True)
class Branches:
    """Nodes that share the air. Last in a series they end at the ports, first they begin at inlets, between they split
    and join again."""

    nodes: tuple["Node", ...]


Node = Element | Series | Branches


def elements(node: Node) -> Iterator[Element]:
    """Every element, in the order of the air and from branch to branch.

    Arguments: node.
    Returns: iterator over elements.
    Raises: nothing.
    Source: none.
    """
    if isinstance(node, Element):
        yield node
        return
    for child in node.nodes:
        yield from elements(child)


def ends(node: Node) -> list[Element]:
    """The elements at which the tree ends, one for each branch.

    Arguments: node.
    Returns: elements.
    Raises: Inconsistent for a series or branches without a node.
    Source: none.
    """
    if isinstance(node, Element):
        return [node]
    if not node.nodes:
        raise Inconsistent("tree", "A branch of the air path is empty.", "Add a component to it or remove it.")
    if isinstance(node, Series):
        return ends(node.nodes[-1])
    return [end for child in node.nodes for end in ends(child)]


def check_tree(node: Node, cylinder_count: int) -> None:
    """Refuse an air path that does not feed every cylinder once.

    Arguments: node, cylinder_count [-].
    Returns: nothing.
    Raises: Inconsistent naming the branch that ends nowhere, or the cylinders fed twice or not at all.
    Source: definition.
    """
    for end in ends(node):
        if end.cylinder is None:
            raise Inconsistent("tree", f"'{end.label}' ends at no cylinder.", "Give it a runner or remove it.")
    fed = Counter(end.cylinder for end in ends(node))
    twice = sorted(number for number, count in fed.items() if number is not None and count > 1)
    if twice:
        raise Inconsistent("tree", f"Cylinder {_listed(twice)} is fed twice.", "Number each runner once.")
    missing = sorted(set(range(1, cylinder_count + 1)) - set(fed))
    if missing:
        raise Inconsistent("tree", f"Cylinder {_listed(missing)} is not fed.", "Add its runner.")
    beyond = sorted(number for number in fed if number is not None and not 1 <= number <= cylinder_count)
    if beyond:
        raise Inconsistent("tree", f"Cylinder {_listed(beyond)} does not exist.", f"The engine has {cylinder_count}.")


def posted_manifold(runner_count: int) -> Node:
    """Air path of a manifold that came in a box: a plenum and its runners.

    Arguments: runner_count [-].
    Returns: the tree.
    Raises: nothing.
    Source: none.
    """
    return Series((Element(ElementKind.PLENUM, "Plenum"), Branches(_runners(runner_count, 1))))


def usual_path(
    cylinder_count: int, bank_count: int = 1, boosted: bool = False, banks: Sequence[Sequence[int]] = ()
) -> Node:
    """Air path that most engines have, to start from: filter, tube, meter, throttle, one plenum, its runners; with a
    compressor and a cooler in front of the throttle of a boosted one.

    Arguments: cylinder_count [-], bank_count [-]: cylinders are numbered bank by bank; boosted; banks: the cylinders of
    each, where they are numbered otherwise.
    Returns: the tree.
    Raises: Inconsistent for banks that do not name each cylinder once.
    Source: common practice, no source.
    """
    before = (
        Element(ElementKind.FILTER, "Filter"),
        Element(ElementKind.TUBE, "Tube"),
        Element(ElementKind.METER, "Meter"),
    )
    charged = (Element(ElementKind.COMPRESSOR, "Compressor"), Element(ElementKind.COOLER, "Cooler"))
    behind = (Element(ElementKind.THROTTLE, "Throttle"), Element(ElementKind.PLENUM, "Plenum"))
    return Series(
        (*before, *(charged if boosted else ()), *behind, Branches(_runners(cylinder_count, bank_count, banks)))
    )


def _runners(cylinder_count: int, bank_count: int, banks: Sequence[Sequence[int]] = ()) -> tuple[Element, ...]:
    in_bank = -(-cylinder_count // bank_count)
    named = sorted(number for bank in banks for number in bank)
    if banks and named != list(range(1, cylinder_count + 1)):
        raise Inconsistent("banks", "The banks do not name each cylinder once.", f"Name 1 to {cylinder_count} once.")
    given = {number: index for index, bank in enumerate(banks, start=1) for number in bank}

    def bank(number: int) -> int | None:
        if given:
            return given[number] if len(banks) > 1 else None
        return (number - 1) // in_bank + 1 if bank_count > 1 else None

    return tuple(
        Element(ElementKind.RUNNER, f"Runner {number}", number, bank(number)) for number in range(1, cylinder_count + 1)
    )


def _listed(numbers: list[int]) -> str:
    return ", ".join(str(number) for number in numbers)
