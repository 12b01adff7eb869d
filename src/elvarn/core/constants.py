"""Constants in one place, each with its source. Derived ones are computed, not typed."""

INCH = 0.0254  # m, exact (NIST SP 811, App. B)
FOOT = 12 * INCH  # m, exact
POUND = 0.45359237  # kg, exact
STANDARD_GRAVITY = 9.80665  # m/s², exact (CGPM 1901)
POUND_FORCE = POUND * STANDARD_GRAVITY  # N
HORSEPOWER = 550 * FOOT * POUND_FORCE  # W, mechanical: 550 ft·lbf/s
METRIC_HORSEPOWER = 75 * STANDARD_GRAVITY  # W: 75 kgf·m/s
INCH_OF_WATER = 1000 * STANDARD_GRAVITY * INCH  # Pa, conventional: 1000 kg/m³ (NIST SP 811, App. B)
INCH_OF_MERCURY = 3386.389  # Pa, conventional at 0 °C (NIST SP 811, App. B)
CUBIC_FOOT_PER_MINUTE = FOOT**3 / 60  # m³/s

ZERO_CELSIUS = 273.15  # K, exact
STANDARD_ATMOSPHERE = 101325.0  # Pa, exact

GAS_CONSTANT_DRY_AIR = 287.055  # J/(kg K); 287.05 to 287.06 are in use
GAS_CONSTANT_WATER_VAPOUR = 461.52  # J/(kg K)
HEAT_CAPACITY_RATIO_AIR = 1.4  # -, diatomic gas at room temperature

REFERENCE_DEPRESSION = 28 * INCH_OF_WATER  # Pa, common practice, no source
STANDARD_TEMPERATURE = 293.15  # K
