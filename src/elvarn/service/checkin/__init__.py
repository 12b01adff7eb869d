"""Check-in: the job, what came in, the engine."""
