"""Open formats in and out: delimited tables of flow and of pulls, and the sheet on paper."""
