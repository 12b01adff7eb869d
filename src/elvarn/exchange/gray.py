"""Pictures as they are measured: grey levels, held as they are shown, and how fine the file says that it is."""

from dataclasses import dataclass
from io import BytesIO

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from elvarn.exchange.picture import PictureError

MOST_DOTS = 60_000_000  # an A4 page at 600 dpi has 35 million


@dataclass(frozen=True, eq=False)
class GrayPicture:
    """Grey levels (rows, columns); `dpi` is what the file says, None where it says nothing."""

    gray: NDArray[np.uint8]
    dpi: float | None


def gray_of(content: bytes) -> GrayPicture:
    """A picture's grey levels. Raises PictureError for what is none or has too many dots."""
    try:
        with Image.open(BytesIO(content)) as image:
            dots, told = image.width * image.height, image.info.get("dpi", (0, 0))
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise PictureError("It is no picture that can be measured. Send JPEG, PNG or WebP.") from error
    if dots > MOST_DOTS:
        raise PictureError(f"It has over {MOST_DOTS // 1_000_000} million dots. Scan it at 600 dpi or less.")
    gray = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_GRAYSCALE)
    if gray is None:
        raise PictureError("The picture breaks off. Send it again.")
    across, down = (float(one) for one in told)
    even = across > 1 and abs(across - down) < 0.01 * across
    return GrayPicture(np.asarray(gray, np.uint8), round(across, 1) if even else None)
