"""The project's own rules: style, types, import directions, what is published, what is documented."""

import doctest
import importlib
import os
import pkgutil
import re
import subprocess
import sys
from pathlib import Path

import pytest

import leadsman.core
from leadsman.api.openapi import openapi_text
from leadsman.cli import _parser
from leadsman.core.design_file import schema_text

PROJECT = Path(__file__).parents[2]
BIN = Path(sys.executable).parent
CHECKS = {
    "ruff": ([str(BIN / "ruff"), "check", "."], PROJECT),
    "ruff format": ([str(BIN / "ruff"), "format", "--check", "."], PROJECT),
    "mypy": ([str(BIN / "mypy")], PROJECT),
    "import directions": ([str(BIN / "lint-imports"), "--no-cache"], PROJECT),
    "oxlint": (
        ["npx", "oxlint", "--type-aware", "--type-check", "--report-unused-disable-directives"],
        PROJECT / "web",
    ),
    "prettier": (["npx", "prettier", "--check", "src"], PROJECT / "web"),
    "vitest": (["npx", "vitest", "run"], PROJECT / "web"),
    "start script": (["bash", "-n", "leadsman"], PROJECT),
}


@pytest.mark.parametrize("name", CHECKS)
def test_check_passes(name: str) -> None:
    command, folder = CHECKS[name]
    environment = {**os.environ, "PYTHONPATH": str(PROJECT / "src"), "NO_COLOR": "1"}
    done = subprocess.run(command, cwd=folder, env=environment, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout[-4000:] + done.stderr[-4000:]


def test_every_doctest_of_the_core_holds() -> None:
    attempted = 0
    for module in pkgutil.walk_packages(leadsman.core.__path__, "leadsman.core."):
        outcome = doctest.testmod(importlib.import_module(module.name))
        assert outcome.failed == 0, module.name
        attempted += outcome.attempted
    assert attempted >= 3


@pytest.mark.parametrize(("file", "text"), [("openapi.json", openapi_text), ("design.schema.json", schema_text)])
def test_what_docs_publish_is_what_the_models_say(file: str, text) -> None:  # type: ignore[no-untyped-def]
    published = (PROJECT / "docs" / file).read_text(encoding="utf-8")
    assert published == text(), f"run: ./leadsman {'openapi' if 'openapi' in file else 'schema'} > docs/{file}"


def test_the_front_ends_types_are_generated_from_the_published_description(tmp_path: Path) -> None:
    fresh = tmp_path / "schema.d.ts"
    command = ["npx", "openapi-typescript", "../docs/openapi.json", "--default-non-nullable=false", "-o", str(fresh)]
    subprocess.run(command, cwd=PROJECT / "web", check=True, capture_output=True)
    kept = PROJECT / "web" / "src" / "api" / "schema.generated.d.ts"
    assert kept.read_text() == fresh.read_text(), "run: npm --prefix web run api-types"


def test_lock_files_hold_versions_and_checksums_but_no_addresses() -> None:
    for name in ("requirements.lock", "requirements-test.lock"):
        text = (PROJECT / name).read_text()
        assert "://" not in text
        packages = re.findall(r"^[a-z0-9-]+==\S+", text, re.M)
        assert len(packages) > 10
        assert text.count("--hash=sha256:") >= len(packages)
    run, test = ((PROJECT / name).read_text() for name in ("requirements.lock", "requirements-test.lock"))
    assert set(re.findall(r"^[a-z0-9-]+==\S+", run, re.M)) <= set(re.findall(r"^[a-z0-9-]+==\S+", test, re.M))
    assert '"resolved"' not in (PROJECT / "web" / "package-lock.json").read_text()


def test_every_command_and_setting_is_in_the_readme() -> None:
    readme = (PROJECT / "README.md").read_text(encoding="utf-8")
    commands = next(action.choices for action in _parser()._subparsers._group_actions)  # type: ignore[union-attr]
    assert commands is not None
    for command in commands:
        assert f"./leadsman {command}" in readme
    code = "".join(path.read_text() for path in (PROJECT / "src").rglob("*.py"))
    for setting in set(re.findall(r'environ(?:\.get\(|\[)"([A-Z_]+)"', code)) - {"PATH"}:
        assert setting in readme


def test_pictures_are_few_and_shown_in_the_readme() -> None:
    readme = (PROJECT / "README.md").read_text(encoding="utf-8")
    pictures = list((PROJECT / "docs" / "screenshots").glob("*"))
    assert 0 < len(pictures) < 20
    for picture in pictures:
        assert picture.name in readme
