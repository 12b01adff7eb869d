"""Compression ratio from the volumes that are left above the piston."""

from math import pi

from elvarn.core.errors import OutOfRange, require_positive


def clearance_volume(
    chamber: float, crown: float, deck: float, gasket_thickness: float, gasket_bore: float, bore: float
) -> float:
    """Volume above the piston at top dead centre.

    Arguments: chamber [m³]; crown [m³] of the piston, a dish above 0, a dome below; deck [m] from the piston's edge up
    to the block's face, below 0 where it stands out; gasket_thickness, gasket_bore [m], compressed; bore [m]; scalars.
    Returns: volume [m³].
    Raises: OutOfRange for sizes not above zero, or where nothing is left above the piston.
    Source: geometry.
    """
    require_positive(chamber=chamber, gasket_thickness=gasket_thickness, gasket_bore=gasket_bore, bore=bore)
    volume = chamber + crown + pi / 4 * (bore**2 * deck + gasket_bore**2 * gasket_thickness)
    if volume <= 0:
        text = f"Above the piston {volume * 1e6:.1f} cm³ are left."
        raise OutOfRange("clearance", text, "Check the crown's sign: a dome counts below 0, a dish above.")
    return volume


def compression_ratio(swept: float, clearance: float) -> float:
    """Geometric compression ratio.

    Arguments: swept [m³] of one cylinder, clearance [m³]; scalars.
    Returns: ratio [-].
    Raises: OutOfRange for volumes not above zero.
    Source: Heywood, eq. 2.1: r_c = (V_d + V_c)/V_c.
    """
    require_positive(swept=swept, clearance=clearance)
    return (swept + clearance) / clearance
