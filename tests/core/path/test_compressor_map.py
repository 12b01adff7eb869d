"""A compressor's map: exact at its points, linear between them, nothing beside it."""

import numpy as np
import pytest

from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.gas.air import Weather
from elvarn.core.path.compressor_map import CompressorMap, corrected_flow

FLOWS = np.array([0.04, 0.10, 0.08, 0.16, 0.11, 0.20])
RATIOS = np.array([1.4, 1.4, 1.9, 1.9, 2.4, 2.4])


def plane(flow, ratio):
    return 0.5 + 0.8 * flow + 0.05 * ratio


def made():
    return CompressorMap(FLOWS, RATIOS, plane(FLOWS, RATIOS))


def test_a_plane_is_found_everywhere_on_the_map():
    """Linear interpolation is exact on a plane, whatever the triangles."""
    for flow, ratio in ((0.10, 1.7), (0.12, 2.0), (0.08, 1.5), (0.15, 2.2)):
        assert made().efficiency(flow, ratio) == pytest.approx(plane(flow, ratio), rel=1e-9)


@pytest.mark.parametrize(("flow", "ratio"), [(0.02, 1.4), (0.05, 2.4), (0.25, 1.9), (0.1, 3.0)])
def test_beside_the_map_there_is_no_efficiency(flow, ratio):
    assert made().efficiency(flow, ratio) is None


def test_corrected_flow_is_the_flow_at_the_maps_own_air():
    assert corrected_flow(0.1, Weather(298.15, 100e3, 0.0)) == pytest.approx(0.1)
    assert corrected_flow(0.1, Weather(313.15, 80e3, 0.0)) == pytest.approx(0.1 * (313.15 / 298.15) ** 0.5 / 0.8)


def test_too_few_points_and_unlike_numbers_are_refused():
    with pytest.raises(NotEnoughData, match="5 points"):
        CompressorMap(FLOWS[:5], RATIOS[:5], RATIOS[:5])
    with pytest.raises(Inconsistent, match="differ in number"):
        CompressorMap(FLOWS, RATIOS[:5], RATIOS)
