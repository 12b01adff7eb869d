"""How a job stands on the dyno: whether stock and another build were pulled."""

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """The dyno is done once stock and another build were pulled; stock comes before anything is taken off."""
    stock = bool(record.valid_pulls(record.stock_build))
    others = any(record.valid_pulls(build) for build in record.builds if not build.is_stock)
    todo = []
    if not stock and record.after_state is None:
        todo.append(Todo("Stock pull before anything comes off", after=Step.CHECKIN))
    if not others:
        todo.append(Todo("Pull it against stock"))
    return Standing(stock and others, _status(stock, others), tuple(todo))


def _status(stock: bool, others: bool) -> str:
    if others:
        return "against stock" if stock else "no stock pull"
    return "stock run" if stock else ""
