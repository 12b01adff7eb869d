"""Air paths that engines have, by name, and a path with an element put in or taken out."""

from collections.abc import Sequence

from elvarn.core.errors import Inconsistent
from elvarn.core.path.tree import Branches, Element, ElementKind, Node, Series, usual_path

ONE_PLENUM = "one plenum"
EACH_BANK = "a throttle and plenum for each bank"
EACH_CYLINDER = "a throttle for each cylinder"
TWO_DUCTS = "two ducts into one box"
CHARGING = (ElementKind.COMPRESSOR, ElementKind.COOLER)
NO_PLENUM = "throttle and runners, no plenum"


def named_paths(
    cylinder_count: int, bank_count: int = 1, boosted: bool = False, banks: Sequence[Sequence[int]] = ()
) -> dict[str, Node]:
    """Air paths to start from.

    Arguments: cylinder_count [-], bank_count [-]: cylinders are numbered bank by bank; boosted; banks: the cylinders of
    each, where they are numbered otherwise.
    Returns: trees by name; one for each bank only where there are banks.
    Raises: Inconsistent for banks that do not name each cylinder once.
    Source: common practice, no source.
    """
    usual = usual_path(cylinder_count, bank_count, boosted, banks)
    bank_count = len(banks) or bank_count
    assert isinstance(usual, Series)
    *front, throttle, _, runners = usual.nodes
    assert isinstance(runners, Branches)
    found: dict[str, Node] = {ONE_PLENUM: usual}
    if bank_count > 1:
        found[EACH_BANK] = Series((*front, Branches(tuple(_bank(runners, n) for n in range(1, bank_count + 1)))))
    if cylinder_count > 1:
        own = [node for node in front if isinstance(node, Element) and node.kind in CHARGING]
        found[EACH_CYLINDER] = Series(
            (front[0], *own, Branches(tuple(_own_throttle(runner) for runner in runners.nodes)))
        )
    ducts = Branches((Element(ElementKind.INLET, "Left duct"), Element(ElementKind.INLET, "Right duct")))
    found[TWO_DUCTS] = Series((ducts, *usual.nodes))
    found[NO_PLENUM] = Series((*front, throttle, runners))
    return found


def without(tree: Node, place: int) -> Node:
    """A path with an element taken out.

    Arguments: tree; place [-]: of the element, in the order of `tree.elements`.
    Returns: tree; branchings that are left with one way are straightened.
    Raises: Inconsistent where nothing would be left.
    Source: none.
    """
    left, _ = _dropped(tree, place, 0)
    if left is None:
        raise Inconsistent("tree", "Nothing would be left of the air path.", "Put another element in first.")
    return left


def with_element(tree: Node, place: int, element: Element, *, before: bool = False) -> Node:
    """A path with an element put in right behind another, or in front of it.

    Arguments: tree; place [-]: of the other element, in the order of `tree.elements`; element; before.
    Returns: tree.
    Raises: Inconsistent where it would stand behind a cylinder's last element.
    Source: none.
    """
    found, _ = _put_in(tree, place, 0, element, before)
    return found


def _bank(runners: Branches, number: int) -> Series:
    mine = tuple(node for node in runners.nodes if isinstance(node, Element) and node.bank == number)
    throttle = Element(ElementKind.THROTTLE, f"Throttle {number}", bank=number)
    return Series((throttle, Element(ElementKind.PLENUM, f"Plenum {number}", bank=number), Branches(mine)))


def _own_throttle(runner: Node) -> Series:
    assert isinstance(runner, Element)
    throttle = Element(ElementKind.THROTTLE, f"Throttle {runner.cylinder}", runner.cylinder, runner.bank)
    return Series((throttle, runner))


def _dropped(node: Node, place: int, first: int) -> tuple[Node | None, int]:
    """What is left of a node, and the place behind it."""
    if isinstance(node, Element):
        return (None if first == place else node), first + 1
    kept: list[Node] = []
    for child in node.nodes:
        left, first = _dropped(child, place, first)
        if left is not None:
            kept += left.nodes if isinstance(node, Series) and isinstance(left, Series) else [left]
    if len(kept) <= 1:
        return (kept[0] if kept else None), first
    return type(node)(tuple(kept)), first


def _put_in(node: Node, place: int, first: int, element: Element, before: bool) -> tuple[Node, int]:
    if isinstance(node, Element):
        if first != place:
            return node, first + 1
        if node.cylinder is not None and not before:
            raise Inconsistent("tree", f"Behind '{node.label}' comes the cylinder.", "Put it in front of it.")
        own = Element(element.kind, element.label, node.cylinder if before else None, node.bank)
        return Series((own, node) if before else (node, own)), first + 1
    kept: list[Node] = []
    for child in node.nodes:
        found, first = _put_in(child, place, first, element, before)
        kept += found.nodes if isinstance(node, Series) and isinstance(found, Series) else [found]
    return type(node)(tuple(kept)), first
