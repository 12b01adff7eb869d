"""A log of engine speed, made into shares of the time at full throttle."""

import numpy as np

from elvarn.core.dyno.profile import Profile, log_profile
from elvarn.core.errors import CoreError
from elvarn.exchange.pull_channels import channel_columns, values_of
from elvarn.exchange.pull_columns import guess_columns
from elvarn.exchange.table import TableError, read_table
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.files import FileStore


def profile_in_log(files: FileStore, run: Run, digest: str) -> Profile:
    """The profile of a kept log. Raises Invalid for one without engine speed, or with too little at full throttle."""
    try:
        return run(profile_of_bytes, files.read(digest))
    except (TableError, CoreError) as error:
        raise Invalid(str(error), path="log_digest") from error


def profile_of_bytes(content: bytes) -> Profile:
    """The profile of a log: of its column of rpm, weighted by its time, of the rows at full throttle where the throttle
    was logged. Raises TableError and CoreError."""
    table = read_table(content)
    speed = next((one for one in guess_columns(table) if one.role == "speed" and one.unit == "rpm"), None)
    if speed is None:
        raise TableError("The log has no column of engine speed in rpm. Name it so in its heading.")
    found = {one.name: values_of(table, one) for one in channel_columns(table, {speed.index})}
    speeds = np.array(table.numbers(speed.index))
    return log_profile(speeds, found.get("time_s"), found.get("throttle_percent"))
