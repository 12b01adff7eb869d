"""The engine: geometry, the air it wants, its strokes, what its ducts favour, its injectors."""
