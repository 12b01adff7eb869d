"""A shop to work in over HTTP: short ways to do what a screen does."""

from dataclasses import dataclass, field
from uuid import uuid4

KEY = "the key of the tests"


def new_id():
    return str(uuid4())


PULL_FACTS = (
    "dyno_id",
    "pulled_at",
    "label",
    "standard_in_file",
    "air_temperature_c",
    "air_pressure_kpa",
    "air_humidity_percent",
    "declared",
)


@dataclass
class Shop:
    """People, bench and dynos made once; each job is its own."""

    client: object
    person: str = field(default_factory=new_id)
    bench: str = field(default_factory=new_id)
    engine_dyno: str = field(default_factory=new_id)
    wheel_dyno: str = field(default_factory=new_id)

    def __post_init__(self):
        self.kept(self.put(f"/people/{self.person}", {"name": f"Tester {self.person[:4]}"}))
        self.kept(self.put(f"/benches/{self.bench}", {"name": f"Bench {self.bench[:4]}", "repeatability_percent": 0.4}))
        for identifier, kind in ((self.engine_dyno, "engine"), (self.wheel_dyno, "roller")):
            self.kept(self.put(f"/dynos/{identifier}", {"name": f"{kind} {identifier[:4]}", "kind": kind}))

    def put(self, path, body):
        return self.client.put(f"/api{path}", json=body)

    def post(self, path, body):
        return self.client.post(f"/api{path}", json=body)

    def get(self, path, **query):
        answer = self.client.get(f"/api{path}", params=query)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def kept(self, answer):
        assert answer.status_code == 200, answer.text
        return answer.json()

    def job(self, runners=5, kind="port_by_post", **more):
        """A new job; returns its id."""
        identifier = new_id()
        body = {"person_id": self.person, "kind": kind, "part": "Manifold", "runner_count": runners, **more}
        self.kept(self.put(f"/jobs/{identifier}", body))
        return identifier

    def setup(self, job, **more):
        identifier = new_id()
        body = {"person_id": self.person, "job_id": job, "bench_id": self.bench, "depression": "28", **more}
        self.kept(self.put(f"/setups/{identifier}", body))
        return identifier

    def flow_body(self, job, setup, state, cylinder, typed, **more):
        return {
            "person_id": self.person,
            "job_id": job,
            "setup_id": setup,
            "part_state_id": state,
            "cylinder": cylinder,
            "typed": typed,
            "taken_at": "2026-03-02T09:00:00+00:00",
            **more,
        }

    def flow(self, job, setup, state, cylinder, typed, **more):
        """Send a figure; returns the answer, whatever it is."""
        return self.put(f"/flow-readings/{new_id()}", self.flow_body(job, setup, state, cylinder, typed, **more))

    def series(self, job, setup, state, figures, **more):
        for cylinder, figure in enumerate(figures, start=1):
            self.kept(self.flow(job, setup, state, cylinder, str(figure), **more))

    def sheet(self, job, units="trade"):
        return self.get(f"/jobs/{job}/bench", units=units)

    def cut(self, job, stage=2):
        """Note a cut; returns the new state's id."""
        identifier = new_id()
        part = self.sheet(job)["part_id"]
        self.kept(self.put(f"/states/{identifier}", {"person_id": self.person, "part_id": part, "stage": stage}))
        return identifier

    def preview(self, content, name="pull.csv"):
        return self.client.post("/api/dyno/preview", params={"name": name}, content=content)

    def pull(self, job, build, content, **more):
        """Drop a file and keep it as a pull; returns the answer to the second."""
        seen = self.kept(self.preview(content))
        facts = {"build_id": build, "dyno_id": self.engine_dyno, "pulled_at": "2026-03-02T14:00:00+00:00"}
        facts |= more.pop("facts", {})
        facts |= {name: more.pop(name) for name in PULL_FACTS if name in more}
        body = {
            "person_id": self.person,
            "job_id": job,
            "file_digest": seen["digest"],
            "mapping": seen["mapping"],
            "facts": facts,
            "accepted": ["seen_before"],
            **more,
        }
        return self.put(f"/pulls/{new_id()}", body)

    def card(self, pull, **change):
        """Say anew what is said of a pull, as a dyno sheet has it; returns the answer."""
        facts = {name: pull[name] for name in ("build_id", *PULL_FACTS)}
        body = {"person_id": self.person, "version": pull["version"], "facts": {**facts, **change}}
        return self.client.post(f"/api/pulls/{pull['id']}/card", json=body)

    def part(self, kind, name):
        """A part on the shelf; returns its state."""
        state = new_id()
        body = {"person_id": self.person, "job_id": None, "kind": kind, "name": name, "state_id": state,
                "state_label": "as it came"}  # fmt: skip
        self.kept(self.put(f"/parts/{new_id()}", body))
        return state

    def varied(self, job, build, kind, state, name):
        """A copy of a build with another part at the element of a kind; returns its id."""
        path = next(one for one in self.builds(job) if one["id"] == build)["path"]
        node = next(one["node_id"] for one in _elements(path) if one["kind"] == kind)
        swaps = [{"node_id": node, "part_state_id": state}]
        identifier = new_id()
        body = {"person_id": self.person, "copy_of": build, "name": name, "swaps": swaps}
        self.kept(self.put(f"/build-copies/{identifier}", body))
        return identifier

    def cards(self, **asked):
        """Every part on the shelf that is found, page by page."""
        first = self.get("/shelf", **asked)
        rest = [self.get("/shelf", **asked, page=page) for page in range(2, first["pages"] + 1)]
        return [card for page in (first, *rest) for card in page["parts"]]

    def builds(self, job):
        return self.get(f"/jobs/{job}")["builds"]


def _elements(node):
    """The elements of a build's path, outside first."""
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in _elements(n)]
