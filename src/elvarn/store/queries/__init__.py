"""What is asked of the database more than once, by noun. Where jobs, parts or builds are named, they may be many."""

from elvarn.store.queries.builds import builds_of, next_build_sequence
from elvarn.store.queries.capture import CapturePlace, KeptFigure, capture_place, keep_figure
from elvarn.store.queries.handed import handed_sheets
from elvarn.store.queries.jobs import (
    closed_jobs,
    count_open_jobs,
    hold_job,
    items_of,
    jobs_of,
    tasks_of,
    titles_of_jobs,
)
from elvarn.store.queries.parts import (
    hold_shelf,
    next_state_sequence,
    numbered_manifolds,
    part_with_its_states,
    parts_in_jobs,
    parts_like,
    parts_of,
    parts_with_states,
    piece_link,
    pieces_of_others,
    shelf_parts,
)
from elvarn.store.queries.photos import photo_of_digest, photos_of_jobs, photos_of_parts
from elvarn.store.queries.plans import flows_of_plan, plans_of, probes_of_plan
from elvarn.store.queries.pulls import PulledBuild, PulledPull, pulled_builds, pulls_of, rows_of_pull
from elvarn.store.queries.readings import (
    checks_of,
    dimensions_of,
    flows_in_jobs,
    flows_of_states,
    last_setup,
    refits_of_bench,
)
from elvarn.store.queries.shop import benches, dynos, job_kinds, name_is_taken, names_of_people, people

__all__ = [
    "CapturePlace",
    "KeptFigure",
    "PulledBuild",
    "PulledPull",
    "benches",
    "builds_of",
    "capture_place",
    "checks_of",
    "closed_jobs",
    "count_open_jobs",
    "dimensions_of",
    "dynos",
    "flows_in_jobs",
    "flows_of_plan",
    "flows_of_states",
    "handed_sheets",
    "hold_job",
    "hold_shelf",
    "items_of",
    "job_kinds",
    "jobs_of",
    "keep_figure",
    "last_setup",
    "name_is_taken",
    "names_of_people",
    "next_build_sequence",
    "next_state_sequence",
    "numbered_manifolds",
    "part_with_its_states",
    "parts_in_jobs",
    "parts_like",
    "parts_of",
    "parts_with_states",
    "people",
    "photo_of_digest",
    "photos_of_jobs",
    "photos_of_parts",
    "piece_link",
    "pieces_of_others",
    "plans_of",
    "probes_of_plan",
    "pulled_builds",
    "pulls_of",
    "refits_of_bench",
    "rows_of_pull",
    "shelf_parts",
    "tasks_of",
    "titles_of_jobs",
]
