"""What a drop from outside to the manifold means beside another."""

DIFFERS = 0.5  # kPa, from where on two drops differ; common practice, no source


def what_a_drop_means(first: float, other: float, outside: float) -> str:
    """Two drops [kPa] at one engine speed, in air: at the same filling it goes with the manifold's pressure, which is
    what is left of the pressure outside [kPa]."""
    if abs(other - first) <= DIFFERS:
        return f"Alike within {DIFFERS:g} kPa: what was changed does not hold the air back; look elsewhere."
    share = 100 * abs((outside - other) / (outside - first) - 1)
    return f"That is about {share:.1f} % {'less' if other > first else 'more'} air at the same filling."
