"""The sheet on paper: one page, the figures on it, in our own fonts."""

import io

import pytest
from pypdf import PdfReader


@pytest.fixture
def flowed(shop):
    job = shop.job(customer="Boatyard Sandøra")
    setup, state = shop.setup(job, entry_radius="clay"), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, [201.6, 199.1, 191.4, 203.0, 198.7])
    shop.series(job, setup, shop.cut(job), [215.2, 213.0, 205.3, 214.1, 212.0])
    return job


def pdf(client, job, units="trade"):
    answer = client.get(f"/api/jobs/{job}/sheet.pdf", params={"units": units})
    assert answer.status_code == 200, answer.text
    return PdfReader(io.BytesIO(answer.content))


def test_the_flow_sheet_is_one_page_with_its_figures(client, flowed):
    pages = pdf(client, flowed).pages
    words = pages[0].extract_text()
    assert len(pages) == 1
    for wanted in (
        "Manifold",
        "Sandøra",
        "CFM at 28 inH",
        "215.2",
        "+13.6",
        "clay radius",
        "supports a qualified person",
    ):
        assert wanted in words


def test_sixteen_runners_still_fit_the_page(client, shop):
    job = shop.job(runners=16)
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [200.0] * 16)
    assert len(pdf(client, job).pages) == 1


def test_the_fonts_are_ours_and_embedded(client, flowed):
    fonts = {
        str(font.get_object()["/BaseFont"])
        for font in pdf(client, flowed).pages[0]["/Resources"]["/Font"].get_object().values()
    }
    assert fonts
    assert all("+Barlow" in font or "+SplineSansMono" in font for font in fonts)


def test_the_sheet_speaks_the_chosen_units(client, flowed):
    assert "365.6" in pdf(client, flowed, "metric").pages[0].extract_text()


def test_a_job_without_figures_prints_an_empty_sheet(client, shop):
    assert len(pdf(client, shop.job()).pages) == 1
