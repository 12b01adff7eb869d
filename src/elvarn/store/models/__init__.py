"""The six nouns as tables."""

from elvarn.store.models.base import Base
from elvarn.store.models.build import Build, BuildNode
from elvarn.store.models.fit import BoltMap, EngineFamily, FitNote, FitPlan, NoteKind
from elvarn.store.models.handed import HandedSheet
from elvarn.store.models.job import Engine, Job, JobKind, KnownStep, Photo, ReceivedItem, Task
from elvarn.store.models.part import Part, PartPiece, PartState
from elvarn.store.models.plan import Plan
from elvarn.store.models.port import PortPass, PortPlan, PortRecipe
from elvarn.store.models.reading.base import Reading
from elvarn.store.models.reading.check import CheckReading
from elvarn.store.models.reading.dimension import DimensionReading
from elvarn.store.models.reading.flow import FlowReading
from elvarn.store.models.reading.log import LogReading
from elvarn.store.models.reading.outline import AnySection, OutlineReading
from elvarn.store.models.reading.probe import ProbeReading
from elvarn.store.models.reading.pull import PullCard, PullReading
from elvarn.store.models.reading.section import SectionReading, WallReading
from elvarn.store.models.reading.setup import Setup
from elvarn.store.models.reading.strike import Strike
from elvarn.store.models.recording import Recording, RecordingPiece
from elvarn.store.models.shop import Bench, ColumnMapping, Dyno, Person, Setting, ShopState, StoredFile
from elvarn.store.models.wanted import WantedPart, WantState

__all__ = [
    "AnySection",
    "Base",
    "Bench",
    "BoltMap",
    "Build",
    "BuildNode",
    "CheckReading",
    "ColumnMapping",
    "DimensionReading",
    "Dyno",
    "Engine",
    "EngineFamily",
    "FitNote",
    "FitPlan",
    "FlowReading",
    "HandedSheet",
    "Job",
    "JobKind",
    "KnownStep",
    "LogReading",
    "NoteKind",
    "OutlineReading",
    "Part",
    "PartPiece",
    "PartState",
    "Person",
    "Photo",
    "Plan",
    "PortPass",
    "PortPlan",
    "PortRecipe",
    "ProbeReading",
    "PullCard",
    "PullReading",
    "Reading",
    "ReceivedItem",
    "Recording",
    "RecordingPiece",
    "SectionReading",
    "Setting",
    "Setup",
    "ShopState",
    "StoredFile",
    "Strike",
    "Task",
    "WallReading",
    "WantState",
    "WantedPart",
]
