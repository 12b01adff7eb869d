"""Whether a part is for this engine at all, and within the rules of its class."""

from collections.abc import Iterator

from elvarn.core.path.conflict import Case, Conflict, Remedy, Severity, millimetres
from elvarn.core.path.features import Rule, RuleKind

SAME_PITCH = 0.0015  # m: beyond it ports and studs miss each other at the end of a bank; common practice, no source
SAME_ANGLE = 0.5  # °: beyond it a face can't be sealed; common practice, no source
OTHER_PART = Remedy("Choose a part made for this engine")
SPACERS = ("adapter",)


def made_for(case: Case) -> Iterator[Conflict]:
    """Whether a manifold has as many runners as the engine cylinders, and meets its heads.

    Arguments: case.
    Returns: conflicts, all of them hard.
    Raises: nothing.
    Source: common practice, no source.
    """
    part, around = case.part, case.around
    if part.kind and part.kind != "manifold":
        return
    if part.runners and around.cylinders and part.runners != around.cylinders:
        text = f"{part.runners} runners; the engine has {around.cylinders} cylinders."
        yield Conflict("runner_count", Severity.HARD, text, OTHER_PART)
    if part.head_flange and around.head_flange and _plain(part.head_flange) != _plain(around.head_flange):
        text = f"Made for head flange '{part.head_flange}'; the engine has '{around.head_flange}'."
        yield Conflict("head_flange", Severity.HARD, text, OTHER_PART)
    if part.port_pitch and around.port_pitch and abs(part.port_pitch - around.port_pitch) > SAME_PITCH:
        text = f"Ports {millimetres(part.port_pitch)} apart; the engine's are {millimetres(around.port_pitch)} apart."
        yield Conflict("port_pitch", Severity.HARD, text, OTHER_PART)
    if part.bank_angle and around.bank_angle and abs(part.bank_angle - around.bank_angle) > SAME_ANGLE:
        text = f"Faces at {part.bank_angle:g}°; the banks stand at {around.bank_angle:g}°."
        yield Conflict("bank_angle", Severity.HARD, text, OTHER_PART)


def within_rules(case: Case, others: tuple[Conflict, ...]) -> Iterator[Conflict]:
    """What class or inspection do not allow: the part itself, or the step that it takes to fit it.

    Arguments: case; others: what else stands against the part, whose remedies are steps.
    Returns: conflicts, all of them hard, each with the rule's words.
    Raises: nothing.
    Source: definition: the rules are the shop's own.
    """
    steps = {one.remedy.takes for one in others if one.severity is not Severity.INFORMATION}
    for rule in case.around.rules:
        for found in _offences(case, rule, steps):
            words = f" The rule: “{rule.words}”." if rule.words else ""
            text = f"Against the rules: {found}.{words}"
            yield Conflict(f"rule_{rule.kind.value}", Severity.HARD, text, Remedy("Choose another part or step"))


def _offences(case: Case, rule: Rule, steps: set[str]) -> Iterator[str]:
    """In what a part offends a rule; nothing where it doesn't, or where that is not known."""
    part, stock = case.part, case.around.stock_casting
    bore = part.outlet.opening if part.outlet else None
    match rule.kind:
        case RuleKind.STOCK_CASTING if part.kind == "manifold" and part.casting and stock:
            if _plain(part.casting) != _plain(stock):
                yield f"its casting is '{part.casting}', stock's '{stock}'"
        case RuleKind.THROTTLE_BORE if part.kind == "throttle" and rule.limit and bore and bore > rule.limit:
            yield f"bore {millimetres(bore)}, allowed {millimetres(rule.limit)}"
        case RuleKind.RESTRICTOR_BORE if part.kind == "restrictor" and rule.limit and bore and bore > rule.limit:
            yield f"bore {millimetres(bore)}, allowed {millimetres(rule.limit)}"
        case RuleKind.SPACER if part.kind in SPACERS or "spacer" in steps:
            yield "it is a spacer or adapter" if part.kind in SPACERS else "it takes a spacer or adapter to fit"
        case RuleKind.WELDING if part.welded or "welding" in steps:
            yield "it is welded" if part.welded else "it takes welding to fit"


def _plain(words: str) -> str:
    return " ".join(words.lower().split())
