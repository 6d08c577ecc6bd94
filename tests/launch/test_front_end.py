"""The built front end: what a browser must fetch before a view stands."""

import gzip
import json
import re

import pytest

from leadsman.api.app import create_app
from leadsman.launch import front_end
from leadsman.settings import Settings

MOST_GZIPPED_B = 350_000
MOST_IN_THE_FIELD_B = 275_000
MOST_IN_THE_SHELL_B = 200_000  # before any view: the list of plans
SITES, WORKBENCH = "index.html", "src/features/workbench/index.ts"
BESIDE, WIDE = "src/features/workbench/Beside.tsx", ("options", "parts", "build", "log")
FIELD = ("src/features/build/index.ts", "src/features/log/index.ts")


def test_whichever_view_is_opened_first_its_script_is_light() -> None:
    front_end.build()
    dist = front_end.WEB / "dist"
    chunks = json.loads((dist / ".vite" / "manifest.json").read_text())

    def weight_b(fetched: list[str]) -> int:
        needed: set[str] = set()
        while fetched:
            name = fetched.pop()
            if name not in needed:
                needed.add(name)
                fetched += chunks[name].get("imports", [])
        return sum(len(gzip.compress((dist / chunks[name]["file"]).read_bytes())) for name in needed)

    views = chunks[WORKBENCH]["dynamicImports"]
    beside = {view: [] if view.split("/")[-2] in WIDE else [BESIDE] for view in views}
    weights = {view: weight_b([SITES, WORKBENCH, view, *beside[view]]) for view in views}
    assert "src/features/workbench/LinesView.tsx" in weights
    assert {view: weight for view, weight in weights.items() if weight > MOST_GZIPPED_B} == {}
    assert {view: weights[view] for view in FIELD if weights[view] > MOST_IN_THE_FIELD_B} == {}
    assert weight_b([SITES]) < MOST_IN_THE_SHELL_B


@pytest.mark.parametrize(
    ("accepted", "packed"), [("gzip, deflate, br", True), ("", False), ("br", False), ("gzip;q=0, identity", False)]
)
def test_scripts_and_styles_go_out_packed_to_who_can_unpack_them_and_are_never_asked_for_again(
    accepted: str, packed: bool
) -> None:
    front_end.build()
    dist = front_end.WEB / "dist"
    client = create_app(Settings(database_url="postgresql://served-without-a-database/", front_end=dist)).test_client()
    page = client.get("/").get_data(as_text=True)
    fetched = re.findall(r'(?:src|href)="(/assets/[^"]+\.(?:js|css))"', page)
    assert len(fetched) > 2
    sent_b = whole_b = 0
    for address in fetched:
        answer = client.get(address, headers={"Accept-Encoding": accepted}, buffered=True)
        plain = (dist / address.removeprefix("/")).read_bytes()
        assert answer.headers.get("Content-Encoding") == ("gzip" if packed else None)
        assert (gzip.decompress(answer.data) if packed else answer.data) == plain
        assert str(answer.mimetype).endswith("css" if address.endswith("css") else "javascript")
        assert {"immutable", "max-age=31536000"} <= set(answer.headers["Cache-Control"].split(", "))
        assert answer.headers["Vary"] == "Accept-Encoding"
        sent_b += len(answer.data)
        whole_b += len(plain)
    assert sent_b < 0.5 * whole_b if packed else sent_b == whole_b
    assert client.get("/assets/gone-1a2b.js", headers={"Accept-Encoding": accepted}).status_code == 404


@pytest.mark.parametrize(
    "view", ["lines", "demand", "supply", "ground", "parts", "day", "options", "build", "log", "gone"]
)
def test_the_page_of_a_plan_names_what_it_will_need_before_its_scripts_have_run(view: str) -> None:
    front_end.build()
    dist = front_end.WEB / "dist"
    client = create_app(Settings(database_url="postgresql://served-without-a-database/", front_end=dist)).test_client()
    plan = "/designs/7b0d4c1e-0000-4000-8000-00000000abcd"
    page = client.get(f"{plan}/{view}").get_data(as_text=True)
    scripts = re.findall(r'<link rel="modulepreload" crossorigin href="([^"]+)">', page)
    assert {client.get(script, buffered=True).status_code for script in scripts} == {200}
    opened = {"gone": "LinesView", "lines": "LinesView", "parts": "catalogue"}.get(view, view)
    named = {script.split("/")[-1].split("-")[0] for script in scripts}
    assert {"workbench", opened} <= named
    assert ("Beside" in named) is (view not in WIDE)
    assert ("LinesView" in named) is (opened == "LinesView")  # nobody waits for another view's script
    asked = re.findall(r'<link rel="preload" as="fetch" crossorigin href="([^"]+)">', page)
    assert asked == [f"/api{plan}", f"/api{plan}/analysis", "/api/catalogue"]
    assert "preload" not in client.get("/").get_data(as_text=True).replace("modulepreload", "")


def test_every_package_that_is_built_in_has_its_notice_with_the_page() -> None:
    front_end.build()
    dist = front_end.WEB / "dist"
    client = create_app(Settings(database_url="postgresql://served-without-a-database/", front_end=dist)).test_client()
    answer = client.get("/third-party-notices.md", buffered=True)
    text = answer.get_data(as_text=True)
    assert answer.mimetype == "text/plain"
    packages = json.loads((front_end.WEB / "package.json").read_text())["dependencies"]
    missing = [name for name in packages if f"## {name} - " not in text]
    assert missing == []
    assert text.count("Permission is hereby granted") > 20
    assert "SIL OPEN FONT LICENSE" in text.upper()
