"""What a drop from outside to the manifold means beside another."""

DIFFERS = 0.5  # kPa, from where on two drops differ; common practice, no source


def what_a_drop_means(first: float, other: float) -> str:
    """Two drops [kPa] at one engine speed, in air: the air at the same filling goes with the manifold's pressure, so
    that a kilopascal is about a per cent."""
    if abs(other - first) <= DIFFERS:
        return f"Alike within {DIFFERS:g} kPa: what was changed does not hold the air back; look elsewhere."
    return f"That is about {abs(other - first):.1f} % {'less' if other > first else 'more'} air at the same filling."
