"""Port geometry: sections across a runner, stations along it, what it holds and what wall is left."""
