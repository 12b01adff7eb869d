"""The bottle that keeps abrasives wet: alcohol and soapy water, and from which temperature its vapour ignites."""

from dataclasses import dataclass

import numpy as np

from elvarn.core.validity import Range

ETHANOL_DENSITY, WATER_DENSITY = 789.3, 998.2  # kg/m³ at 20 °C
FRACTION = Range("alcohol", "share of alcohol in the bottle", 0.3, 0.96, "%", "Liaw and Chiu, from memory")
# Closed-cup flash point [K] of ethanol in water, by mass: the model of Liaw and Chiu with UNIFAC (three points), the
# pure one of NFPA 497; and what data sheets print, which is 16 °C already for 70 % on either basis.
MODELLED = {0.30: 301.9, 0.50: 298.4, 0.70: 294.9, 0.96: 286.5}
WITHIN = 2.0  # K
LOWEST = {0.30: 299.9, 0.50: 296.1, 0.62: 289.15, 0.70: 289.15, 0.96: 284.65}
HIGHLY = 296.15  # K: below it a liquid is highly flammable (GHS, category 2)
HEAT = 298.15  # K in the shop from which a bottle of much alcohol dries too fast; common practice, no source


@dataclass(frozen=True)
class Bottle:
    """A bottle: its alcohol by volume [-], from which temperature [K] its vapour may ignite by the lowest and by the
    highest source, and whether it has to be taken as highly flammable."""

    alcohol: float
    lowest: float
    highest: float
    highly: bool


def bottle(alcohol: float) -> Bottle:
    """From which temperature the vapour over a bottle of alcohol and water ignites.

    Arguments: alcohol [-]: ethanol by volume; the soap counts as water.
    Returns: bottle.
    Raises: OutOfRange for less than 30 % or more than 96 %.
    Source: Liaw and Chiu, J. Hazard. Mater. 101 (2003) 83, from memory; NFPA 497, from memory; the range holds what
    data sheets print.
    """
    FRACTION.check(alcohol)
    mass = by_mass(alcohol)
    modelled, lowest = (float(np.interp(mass, list(known), list(known.values()))) for known in (MODELLED, LOWEST))
    return Bottle(alcohol, lowest, modelled + WITHIN, lowest < HIGHLY)


def by_mass(alcohol: float) -> float:
    """The share of ethanol by mass in a mix by volume.

    Arguments: alcohol [-]: ethanol by volume, at 20 °C, of the volume that its parts have together after mixing.
    Returns: share [-] by mass.
    Raises: nothing.
    Source: definition; the mix shrinks, by up to 3.6 % at half and half (OIML R 22, from memory).
    """
    shrunk = 1 + 4 * 0.037 * alcohol * (1 - alcohol)
    water = shrunk - alcohol
    return alcohol * ETHANOL_DENSITY / (alcohol * ETHANOL_DENSITY + water * WATER_DENSITY)


def usual(shop_temperature: float) -> float:
    """How much alcohol the bottle has by the season.

    Arguments: shop_temperature [K].
    Returns: alcohol [-] by volume: half in heat, where more dries too fast, else 70 %.
    Raises: nothing.
    Source: common practice, no source.
    """
    return 0.5 if shop_temperature >= HEAT else 0.7
