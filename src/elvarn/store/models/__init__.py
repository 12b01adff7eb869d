"""The six nouns as tables."""

from elvarn.store.models.base import Base
from elvarn.store.models.build import Build, BuildNode
from elvarn.store.models.job import RAIL, Engine, Job, JobKind, Photo, ReceivedItem, Step
from elvarn.store.models.part import Part, PartPiece, PartState
from elvarn.store.models.plan import Plan
from elvarn.store.models.reading import (
    CheckReading,
    DimensionReading,
    FlowReading,
    ProbeReading,
    PullReading,
    Reading,
    Setup,
    Strike,
)
from elvarn.store.models.shop import Bench, ColumnMapping, Dyno, Person, Setting, StoredFile

__all__ = [
    "RAIL",
    "Base",
    "Bench",
    "Build",
    "BuildNode",
    "CheckReading",
    "ColumnMapping",
    "DimensionReading",
    "Dyno",
    "Engine",
    "FlowReading",
    "Job",
    "JobKind",
    "Part",
    "PartPiece",
    "PartState",
    "Person",
    "Photo",
    "Plan",
    "ProbeReading",
    "PullReading",
    "Reading",
    "ReceivedItem",
    "Setting",
    "Setup",
    "Step",
    "StoredFile",
    "Strike",
]
