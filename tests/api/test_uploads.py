"""Files that are sent: counted while they come, read apart, and nobody waits for them."""

import time
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO

import pytest
from PIL import Image

from elvarn.service.kernel.files import LARGEST_FILE
from tests.shop import new_id

ADDRESSES = (
    "/api/dyno/preview",
    "/api/pictures",
    "/api/shelf/import",
    "/api/shelf/preview",
    "/api/jobs/{job}/flow-table",
)


@pytest.fixture(scope="module")
def job(shop):
    return shop.job()


def sent(client, address, content, **query):
    return client.post(address, content=content, params={"name": "file.csv", "person_id": new_id(), **query})


@pytest.mark.parametrize("address", ADDRESSES)
class TestTooLarge:
    def test_by_what_its_head_says(self, client, job, address):
        answer = sent(client, address.format(job=job), b"1" * (LARGEST_FILE + 1))
        assert (answer.status_code, answer.json()["code"]) == (413, "too_large")
        assert "20 MB" in answer.json()["detail"]

    def test_by_what_comes(self, client, job, address):
        asked = 0

        def pieces():
            nonlocal asked
            for _ in range(200):
                asked += 1
                yield b"1" * 1_000_000

        assert sent(client, address.format(job=job), pieces()).status_code == 413


def test_a_body_that_is_no_file_may_have_a_megabyte(client, shop):
    answer = shop.put(f"/people/{new_id()}", {"name": "x" * 1_100_000})
    assert (answer.status_code, answer.json()["code"]) == (413, "too_large")


@pytest.mark.parametrize("address", ["/api/nothing", "/api/jobs/x/y/z"])
def test_an_address_that_is_none_is_told_as_a_problem(client, address):
    answer = client.get(address)
    assert (answer.status_code, answer.json()["code"]) == (404, "not_found")


def test_small_requests_do_not_wait_for_a_large_file(client, shop):
    rows = b"".join(b"%d,%d,100,20\n" % (i % 6000 + 1000, i % 300) for i in range(90_000))
    table = b"rpm,Nm,kPa,degC\n" + rows
    sent(client, "/api/dyno/preview", b"rpm,Nm\n2000,100\n")  # the reading process is there
    with ThreadPoolExecutor(1) as beside:
        reading = beside.submit(sent, client, "/api/dyno/preview", table)
        waits = []
        while not reading.done():
            began = time.perf_counter()
            assert client.get("/api/health").status_code == 200
            waits.append(time.perf_counter() - began)
    assert reading.result().json()["row_count"] == 90_000
    assert len(waits) > 10
    assert sorted(waits)[len(waits) // 2] < 0.05


def test_a_picture_is_kept_without_its_place(client, shop, job):
    told = Image.Exif()
    told.get_ifd(0x8825).update({1: "N", 2: (59.0, 20.0, 30.5)})
    out = BytesIO()
    Image.linear_gradient("L").save(out, "JPEG", exif=told)
    digest = sent(client, "/api/pictures", out.getvalue()).json()["digest"]
    shop.kept(shop.put(f"/photos/{new_id()}", {"person_id": shop.person, "file_digest": digest, "job_id": job}))
    kept = client.get(f"/api/pictures/{digest}").content
    assert not Image.open(BytesIO(kept)).getexif().get_ifd(0x8825)


def test_the_same_shelf_dropped_three_times_at_once_lies_there_once(client, shop):
    file = b"kind,name\nfilter,Only filter\ntube,Only tube\n"

    def dropped(_):
        return sent(client, "/api/shelf/import", file, person_id=shop.person)

    with ThreadPoolExecutor(3) as three:
        answers = [shop.kept(answer) for answer in three.map(dropped, range(3))]
    assert sorted(len(answer["added"]) for answer in answers) == [0, 0, 2]


def test_a_flow_table_of_thousands_of_rows_is_refused(client, job):
    rows = b"runner,before\n" + b"1,200\n" * 2001
    answer = sent(client, f"/api/jobs/{job}/flow-table", rows)
    assert "2001 rows; 2000 can be" in answer.json()["detail"]


def test_a_shelf_of_thousands_of_parts_is_refused(client, shop):
    rows = b"kind,name\n" + b"".join(b"filter,F%d\n" % i for i in range(1001))
    answer = sent(client, "/api/shelf/import", rows, person_id=shop.person)
    assert "1001 parts; 1000 can be" in answer.json()["detail"]
