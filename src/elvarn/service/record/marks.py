"""What a mark of a reading means, in words."""

MARKS = {
    "ten_times": "ten times the others",
    "a_tenth": "a tenth of the others",
    "cubic_metres_per_hour": "unit in doubt",
    "cubic_feet_per_minute": "unit in doubt",
    "unlike_others": "unlike the others",
    "above_ceiling": "above what the opening can pass",
    "over_range": "above the bench's largest range",
    "range_full": "at the end of the bench's range",
    "range_bottom": "in the bottom quarter of the bench's range",
    "not_settled": "not settled yet",
    "clock_ahead": "taken by a clock that was ahead",
    "far_repeat": "far from what it read before",
    "unlikely": "unlikely for its kind",
    "clock_back": "dated before the figure that came before it",
}
