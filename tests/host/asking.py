"""What tests of a running server ask it over HTTP."""

import json
from urllib.request import Request, urlopen


def put(url, path, body):
    headers = {"content-type": "application/json"}
    with urlopen(Request(f"{url}/api{path}", json.dumps(body).encode(), headers, method="PUT"), timeout=10) as answer:
        return json.load(answer)


def get(url, path):
    with urlopen(f"{url}/api{path}", timeout=10) as answer:
        return json.load(answer)
