"""Hand-over: the sheet and the memory."""
