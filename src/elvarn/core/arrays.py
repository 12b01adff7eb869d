"""The one array of the core: floats."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
