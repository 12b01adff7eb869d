"""The margin: what Elvarn concludes, in sentences whose figures can be followed."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from elvarn.core.finding import Finding, Grade
from elvarn.core.verdict import Remedy, Verdict

Tone = Literal["plain", "doubt", "harm", "next"]
Measured = Literal["refit", "pull"]  # what is read again where more would tell


@dataclass(frozen=True)
class Piece:
    """Some words; `target` names what on the worktop they rest on."""

    text: str
    target: str | None = None


@dataclass(frozen=True)
class Sentence:
    """One statement with its grade and tone; `paper` is what of it the customer reads: empty where it is meant for the
    shop alone."""

    grade: Grade
    tone: Tone
    pieces: list[Piece] = field(default_factory=list)
    paper: str = ""

    @property
    def text(self) -> str:
        return "".join(piece.text for piece in self.pieces)


def sentence(
    answer: str, grade: Grade, tone: Tone = "plain", reason: str = "", action: str = "", paper: bool = False
) -> Sentence:
    """The answer, true by itself; what it is measured against or what was assumed; and what to do, where that would
    change it. In each, [words](target) rest on something shown on the worktop. On paper, for the customer, stand answer
    and reason; what to do is the shop's."""
    text = " ".join(part for part in (answer, reason, action) if part)
    pieces = []
    position = 0
    for match in re.finditer(r"\[([^\]]+)\]\(([^)]+)\)", text):
        if match.start() > position:
            pieces.append(Piece(text[position : match.start()]))
        pieces.append(Piece(match.group(1), match.group(2)))
        position = match.end()
    if position < len(text):
        pieces.append(Piece(text[position:]))
    told = " ".join(part for part in (answer, reason) if part) if paper else ""
    return Sentence(grade, tone, pieces, re.sub(r"\[([^\]]+)\]\([^)]+\)", r"\1", told))


def from_finding(finding: Finding, grade: Grade = Grade.COMPUTED) -> Sentence:
    """A core finding as a sentence of the margin."""
    return sentence(finding.text, grade, "doubt" if finding.doubt else "plain")


def judged(verdict: Verdict, of: Measured = "refit") -> str:
    """The word on a difference, and what to try where nothing is told: for a place with no room for a sentence."""
    if verdict.real:
        return "clear, ± assumed" if verdict.assumed else "clear"
    would = what_would_tell(verdict, of)
    return f"{plainly(verdict)}; {would}" if would else plainly(verdict)


def plainly(verdict: Verdict) -> str:
    """The word on a difference alone."""
    if verdict.real:
        return "clear"
    return f"no difference larger than {verdict.matters:g} %" if verdict.no_larger else "too close to call"


def headline(verdict: Verdict) -> str:
    """The word on a difference as a sentence begins with it."""
    if verdict.real:
        return "Clear gain" if verdict.change >= 0 else "Clear loss"
    return first_up(plainly(verdict))


def what_would_tell(verdict: Verdict, of: Measured = "refit") -> str:
    """What to try for a difference that is too close to call: it finds one of that size four times in five. Nothing
    where no sensible effort would."""
    more = f"{verdict.more} more {of}{'s' if verdict.more > 1 else ''} a side" if verdict.more else ""
    if verdict.remedy is Remedy.NONE:
        return f"try {more}" if more else ""
    together = "both on one day" if of == "pull" else "both in one session"
    other = "a reference plate in both sessions" if verdict.remedy is Remedy.PLATE else together
    return f"try {other} and {more}" if more else f"try {other}"


def not_comparable(items: Sequence[str]) -> str:
    """The word where two sides differ in more than what is compared: in which items. Nothing where they do not."""
    return f"not comparable: {listed(list(items))}" if items else ""


def listed(words: list[str]) -> str:
    """Words as a list in a sentence."""
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def what_rests(counts: Mapping[str, int]) -> str:
    """So many of each rest on something, as a sentence begins."""
    words = listed([f"{count} {_plural(name) if count > 1 else name}" for name, count in counts.items()])
    return f"{words} {'rests' if sum(counts.values()) == 1 else 'rest'} on"


def _plural(name: str) -> str:
    if " copied" in name:
        return name.replace(" copied", "s copied", 1)
    return f"{name[:-1]}ies" if name.endswith("y") else f"{name}s"


def first_up(words: str) -> str:
    """Words with a capital in front."""
    return words[0].upper() + words[1:]
