"""The pinch: where a path loses most."""

from elvarn.core.path.engine_losses import EngineLosses, RowLoss


def pinch(losses: EngineLosses) -> RowLoss | None:
    """The line with the largest share of what a path loses.

    Arguments: losses.
    Returns: its line; None where no share is known.
    Raises: nothing.
    Source: common practice, no source.
    """
    known = [row for row in losses.rows if row.share is not None]
    return max(known, key=lambda row: row.share or 0.0, default=None)


def pinch_before_runners(losses: EngineLosses) -> RowLoss | None:
    """The largest share among what feeds all cylinders: the part in front of the manifold to spend money on.

    Arguments: losses.
    Returns: its line; None where no share is known.
    Raises: nothing.
    Source: common practice, no source.
    """
    known = [row for row in losses.rows if row.share and not row.row.each]
    return max(known, key=lambda row: row.share or 0.0, default=None)
