"""In the field: the page opens without a server, steps and entries are there, and a killed phone loses nothing."""

import os
import signal
import tempfile
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import pytest
from bench_page import Bench
from chrome import chrome

from leadsman.db.connection import Database
from leadsman.launch import front_end
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.server import Server, web_server
from photos import camera_photo

KEPT = """const done = arguments[arguments.length - 1];
    navigator.serviceWorker.ready.then(() => caches.keys()).then(async (names) => {
        const counts = await Promise.all(names.map(async (name) => (await (await caches.open(name)).keys()).length));
        done(counts.reduce((sum, count) => sum + count, 0));
    });"""
ANSWERS = """const done = arguments[arguments.length - 1];
    const opened = indexedDB.open("leadsman-kept");
    opened.onerror = () => done([]);
    opened.onsuccess = () => {
        if (!opened.result.objectStoreNames.contains("answers")) { opened.result.close(); return done([]); }
        const keys = opened.result.transaction("answers").objectStore("answers").getAllKeys();
        keys.onsuccess = () => { opened.result.close(); done(keys.result.map((key) => key.split(" ")[1])); };
    };"""
DRAWN = "return [...document.querySelectorAll('[aria-label=Entries] img')].some((one) => one.naturalWidth > 100);"


class Field:
    """A server on a port of its own, that can go and be back, and a phone's profile that outlives the browser."""

    def __init__(self, url: str, folder: Path, profile: str) -> None:
        self.url, self.folder, self.profile, self.port = url, folder, profile, free_port(0)
        self.server: Server | None = None

    def serve(self) -> Server:
        self.server = web_server("127.0.0.1", self.port, self.url, self.folder / "server.pid", workers=1)
        self.server.await_answer()
        return self.server

    def away(self) -> None:
        if self.server is not None:
            self.server.stop()
        self.server = None


@pytest.fixture
def field(cluster: Cluster, tmp_path: Path) -> Iterator[Field]:
    front_end.build()
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as profile:
        made = Field(cluster.url, tmp_path, profile)
        yield made
        made.away()


def test_a_phone_that_was_out_of_reach_and_killed_has_the_plan_the_steps_and_every_entry(
    field: Field, url: str, demo_id: str
) -> None:
    address, photo = field.serve().address, field.folder / "joint.jpg"
    photo.write_bytes(camera_photo())
    with suppress(Exception), chrome(field.profile) as phone:
        bench = Bench(phone, address, demo_id, Database(url))
        bench.size(390, 844)
        bench.load("build")
        bench.until(lambda: phone.execute_async_script(KEPT) > 40)
        wanted = {"/api/analyses/first-water", f"/api/designs/{demo_id}/upkeep", f"/api/designs/{demo_id}/log"}
        bench.until(lambda: wanted <= {str(key).split("?")[0] for key in phone.execute_async_script(ANSWERS)})
        field.away()
        bench.load("log")  # closed and opened again, without a server
        bench.until(lambda: "No connection since" in bench.text("[data-testid=unreached]"))
        bench.find("textarea").send_keys("float stuck, freed it")
        bench.button("Note it").click()
        bench.until(lambda: "1 entry waits on this device" in bench.text("[data-testid=queue]"))
        bench.load("build")
        bench.button("First water").click()
        bench.until(lambda: "Shut the drain of Head main" in bench.text("main"))
        bench.button("Done").click()
        bench.until(lambda: "2 entries wait on this device" in bench.text("[data-testid=queue]"))
        bench.find("input[type=file]").send_keys(str(photo))
        bench.button("Note the photo").click()
        bench.until(lambda: "3 entries wait on this device" in bench.text("[data-testid=queue]"))
        os.killpg(phone.service.process.pid, signal.SIGKILL)
        bench.database.close()
        field.folder.joinpath("reached").touch()  # what went wrong before here must not pass as the browser's end
    assert field.folder.joinpath("reached").exists()
    field.serve()
    with chrome(field.profile) as phone:
        bench = Bench(phone, address, demo_id, Database(url))
        bench.load("log")
        bench.until(lambda: "All entries are sent" in bench.text("[data-testid=queue]"))
        bench.until(lambda: "float stuck, freed it" in bench.text("[aria-label=Entries]"))
        bench.until(lambda: phone.execute_script(DRAWN))
        with bench.database.transaction() as connection:
            rows = connection.execute(
                "SELECT kind, said, figures->>'step', photo.data IS NOT NULL "
                "FROM log_entry LEFT JOIN photo ON entry_id = id ORDER BY happened_at"
            ).fetchall()
        bench.database.close()
    assert rows == [
        ("note", "float stuck, freed it", None, False),
        ("step", "", "drain-1", False), ("photo", "", "open-ends", True),
    ]  # fmt: skip


def test_a_file_that_is_no_photo_is_told_of_and_a_photo_shows_with_its_words(bench: Bench, tmp_path: Path) -> None:
    def take(name: str, data: bytes) -> None:
        path = tmp_path / name
        path.write_bytes(data)
        bench.find("input[type=file]").send_keys(str(path))

    bench.load("log?about=low-trough")
    for name, data, told in (
        ("film.mp4", b"no picture", "film.mp4 is video/mp4: take a JPEG, PNG or WebP picture."),
        ("joint.jpg", bytes(60_000_000), "joint.jpg has 60 MB: take one of at most 24 MB."),
        ("broken.jpg", b"\xff\xd8\xff\xe0 cut off", "broken.jpg cannot be drawn: it is damaged, or no picture."),
    ):
        take(name, data)
        bench.await_text("[role=alert]", f"{told} Nothing was noted.")
    take("weeps.jpg", camera_photo(latitude=(51.0, 30.0, 36.0)))
    bench.fill("What it shows", "the joint weeps")
    bench.find("[aria-label='The photo in hand'] input[type=checkbox]").click()
    bench.button("Note the photo").click()
    bench.until(lambda: bench.browser.execute_script(DRAWN))
    bench.until(lambda: "All entries are sent" in bench.text("[data-testid=queue]"))
    bench.until(lambda: "Taken at 51.51000°, -8.25000°" in bench.text("[aria-label=Entries]"))
    assert "Photo: the joint weeps" in bench.text("[aria-label=Entries]")
    assert bench.axe() == []
    with bench.database.transaction() as connection:
        kept = "SELECT kind, part, latitude_deg FROM log_entry JOIN photo ON entry_id = id"
        rows = connection.execute(kept).fetchall()
    assert rows == [("photo", "low-trough", 51.51)]


def test_what_is_fetched_in_the_field_is_one_page_that_installs(field: Field) -> None:
    from urllib.request import urlopen

    address = field.serve().address
    with urlopen(f"{address}manifest.webmanifest") as answer:
        assert answer.headers["Content-Type"] == "application/manifest+json"
        assert b'"standalone"' in answer.read()
    with urlopen(f"{address}sw.js") as answer:
        assert "javascript" in answer.headers["Content-Type"]
        assert answer.headers["Cache-Control"] == "no-cache"
    with urlopen(f"{address}icon-512.png") as answer:
        assert answer.read().startswith(b"\x89PNG")
