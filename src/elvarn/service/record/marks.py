"""What a mark of a reading means, in words."""

MARKS = {
    "ten_times": "10 × the others",
    "a_tenth": "a tenth of the others",
    "cubic_metres_per_hour": "check unit",
    "cubic_feet_per_minute": "check unit",
    "unlike_others": "far from the others",
    "above_ceiling": "more than the bore can pass",
    "over_range": "more than the bench's largest range",
    "range_full": "at the top of the bench's range",
    "range_bottom": "in the bottom quarter of the bench's range",
    "not_settled": "not settled yet",
    "clock_ahead": "device clock was fast",
    "far_repeat": "far from what it read before",
    "unlikely": "unlikely for its kind",
    "clock_back": "dated before the previous reading",
}
