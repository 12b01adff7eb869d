"""Files out: what a browser calls them."""

from urllib.parse import quote


def attached(name: str) -> dict[str, str]:
    """Headers of a file to be kept under this name, in any script (RFC 6266, RFC 8187)."""
    plain = "".join(sign if sign.isascii() and sign.isprintable() and sign not in '"\\' else "_" for sign in name)
    return {"content-disposition": f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}"}
