"""The core's calculations by name, with units in the field names: for the command line and over HTTP."""

from elvarn.service.calc.registry import CALCULATIONS, Calculation, run

__all__ = ["CALCULATIONS", "Calculation", "run"]
