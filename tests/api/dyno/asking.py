"""What tests of the dyno drop and read over HTTP."""

import numpy as np

from elvarn.core.dyno.correction import power_from_torque

NOTHING = {"margin": [], "trust": []}
RPM = np.arange(2500, 7001, 50)
STOCK = 230 - ((RPM - 4600) / 300) ** 2
PORTED = 229 - ((RPM - 5000) / 310) ** 2
AIR = {"air_temperature_c": 25, "air_pressure_kpa": 96.0, "air_humidity_percent": 40}


def content(torque, headings="rpm;Nm;kW", power_factor=1.0, rpm=RPM):
    rows = [
        f"{n};{m:.2f};{power_from_torque(float(m), float(n)) / 1000 * power_factor:.3f}".replace(".", ",")
        for n, m in zip(rpm, torque, strict=True)
    ]
    return "\n".join([headings, *rows]).encode()


def said(sheet):
    every = [*sheet["judged"]["said"], *sheet["margin"], *sheet["trust"]]
    return ["".join(piece["text"] for piece in sentence["pieces"]) for sentence in every]


def cell(sheet, row=1, use="hill climb"):
    table = sheet["judged"]["table"]
    return table["rows"][row]["cells"][[one["name"] for one in table["uses"]].index(use)]
