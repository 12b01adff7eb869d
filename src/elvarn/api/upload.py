"""Files that are sent: their bytes are the body, counted while they come."""

from typing import Annotated

from fastapi import Depends, Request

from elvarn.api.strict import read_at_most
from elvarn.service.kernel.files import LARGEST_FILE


async def _sent(request: Request) -> bytes:
    return await read_at_most(request, LARGEST_FILE)


Sent = Annotated[bytes, Depends(_sent)]
