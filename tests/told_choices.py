"""The three choices of docs/choosing.md as the tables in which it tells them, recomputed."""

from tests.api.test_orders import wanted
from tests.api.test_path import solution
from tests.choices import taken_in

DUE = "2030-06-28"
RPM = {"eight": 5000, "five": 7200, "three": 6000}
PLACE = {"eight": "manifold", "five": "throttle", "three": "manifold"}


def span(low, high):
    if low is None:
        return "not known"
    text = f"{high:.1f}" if f"{low:.1f}" == f"{high:.1f}" else f"{low:.1f} to {high:.1f}"
    return f"{text} %".replace("-", "−")


def told(shop, choice, name):
    """Each table of a choice, as rows of Markdown, in the order of the work."""
    _cleared(shop)
    job = taken_in(shop, choice, DUE)
    build = shop.builds(job)[0]["id"]
    found = {"losses": _losses(solution(shop, build, rpm=RPM[name]))}
    found["candidates"] = _candidates(shop.get(f"/jobs/{job}/candidates", kind=PLACE[name]), choice)
    sets = shop.get(f"/jobs/{job}/sets")
    found["sets"] = [_set(one) for one in sets["sets"]]
    most = next(one for one in sets["sets"] if one["why"] == "most air")
    found["steps"] = [_step(n, step) for n, step in enumerate(most["steps"], start=1)]
    for part in most["parts"]:
        wanted(shop, part["part_id"], job)
    found["order"] = _order(shop, job)
    return found


def _cleared(shop):
    """A shelf with nothing on it but what the choice lays there."""
    for card in shop.cards():
        version = shop.get(f"/parts/{card['id']}")["version"]
        shop.kept(shop.post(f"/parts/{card['id']}/away", {"version": version, "archived": True}))


def _losses(solved):
    rows = []
    for row in solved["rows"]:
        if row["share_percent"] is not None:
            rows.append(f"| {row['label'].lower()} | {row['flow']['text']} CFM | {row['drop']['text']} kPa | "
                        f"{row['share_percent']:.0f} % |")  # fmt: skip
    return rows


def _candidates(sheet, choice):
    named = {one.name for one in choice.shelf}
    rows = []
    for one in sheet["candidates"]:
        if one["name"] in named or one["there_now"]:
            against = one["conflicts"][0]["text"] if one["hard"] else one["tuned"] and f"tuned {one['tuned']} the band"
            name = "as it is" if one["there_now"] else one["name"]
            gain = span(one["gain_low_percent"], one["gain_high_percent"])
            rows.append(
                f"| {name} | {one['suits'].replace('_', ' ')} | {gain} | {against or ''} |".replace(" |  |", " | |")
            )
    return rows


def _set(one):
    gain = "" if not one["parts"] else span(one["gain_low_percent"], one["gain_high_percent"])
    days = "now" if not one["parts"] else f"{one['lead_days']} day{'s' if one['lead_days'] > 1 else ''}"
    return f"| {one['why']} | {one['name']} | {gain} | {one['cost']:.0f} EUR | {days} |".replace(" |  |", " | |")


def _step(number, step):
    gain = span(step["gain_low_percent"], step["gain_high_percent"])
    return f"| {number} | {' + '.join(step['names'])} | {gain} | {step['spent']:.0f} EUR |"


def _order(shop, job):
    rows = [row for row in shop.get("/orders")["rows"] if job in [want["job_id"] for want in row["wants"]]]
    table = [f"| {row['name']} | {row['to_order']} | {row['sum']:.0f} EUR | {row['order_by']} |" for row in rows]
    return [*table, f"| together | | {sum(row['sum'] for row in rows):.0f} EUR | |"]
