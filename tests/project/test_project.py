"""The project's own rules: style, types, import directions, what is published, what is documented."""

import ast
import doctest
import importlib
import inspect
import os
import pkgutil
import re
import subprocess
import sys
import tomllib
from collections.abc import Callable, Iterator
from pathlib import Path
from types import ModuleType

import pytest

import leadsman.core
import leadsman.core.farm
import leadsman.core.physics
from leadsman import settings
from leadsman.api.openapi import openapi_text
from leadsman.cli import _parser
from leadsman.core.base.unit_system import units_text
from leadsman.core.design.file import schema_text

PROJECT = Path(__file__).parents[2]
BIN = Path(sys.executable).parent
NODE = PROJECT / "web" / "node_modules" / ".bin"
NUMBER = re.compile(r"^<class 'float'>$|^float( \| None)?$|^numpy.ndarray")
CHECKS = {
    "ruff": ([str(BIN / "ruff"), "check", "."], PROJECT),
    "ruff format": ([str(BIN / "ruff"), "format", "--check", "."], PROJECT),
    "mypy": ([str(BIN / "mypy")], PROJECT),
    "import directions": ([str(BIN / "lint-imports"), "--no-cache"], PROJECT),
    "oxlint": (
        [str(NODE / "oxlint"), "--type-aware", "--type-check", "--report-unused-disable-directives"],
        PROJECT / "web",
    ),
    "prettier": ([str(NODE / "prettier"), "--check", "--cache", "--cache-strategy", "content", "src"], PROJECT / "web"),
    "vitest": ([str(NODE / "vitest"), "run", "--project", "units"], PROJECT / "web"),
    "start script": (["bash", "-n", "leadsman"], PROJECT),
}


@pytest.mark.parametrize("name", CHECKS)
def test_check_passes(name: str) -> None:
    command, folder = CHECKS[name]
    environment = {**os.environ, "PYTHONPATH": str(PROJECT / "src"), "NO_COLOR": "1"}
    done = subprocess.run(command, cwd=folder, env=environment, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout[-4000:] + done.stderr[-4000:]


def test_every_doctest_of_the_core_holds() -> None:
    for module in pkgutil.walk_packages(leadsman.core.__path__, "leadsman.core."):
        outcome = doctest.testmod(importlib.import_module(module.name))
        assert outcome.failed == 0, module.name


def formulas(package: ModuleType) -> Iterator[Callable[..., object]]:
    """The public functions of a package that return a number, or an array of them."""
    for info in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
        module = importlib.import_module(info.name)
        for name, formula in inspect.getmembers(module, inspect.isfunction):
            if formula.__module__ != info.name or name.startswith("_"):
                continue
            returned = str(inspect.signature(formula).return_annotation)
            if package is leadsman.core.physics or NUMBER.search(returned):
                yield formula


@pytest.mark.parametrize("package", [leadsman.core.physics, leadsman.core.farm])
def test_every_formula_has_an_example(package: ModuleType) -> None:
    lacking = [f"{one.__module__}.{one.__name__}" for one in formulas(package) if ">>>" not in (one.__doc__ or "")]
    assert not lacking


@pytest.mark.parametrize(
    ("command", "file", "text"),
    [
        ("openapi", "docs/openapi.json", openapi_text),
        ("schema", "docs/design.schema.json", schema_text),
        ("units", "web/src/shared/units.generated.json", units_text),
    ],
)
def test_what_is_published_is_what_the_core_says(command: str, file: str, text: Callable[[], str]) -> None:
    assert (PROJECT / file).read_text(encoding="utf-8") == text(), f"run: ./leadsman {command} > {file}"


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
    for setting in (name for name in vars(settings) if name.isupper() and vars(settings)[name] == name):
        assert f"`{setting}`" in readme


def test_the_environment_is_read_for_settings_in_one_place() -> None:
    read = re.compile(r"os\.environ(?:\.get\(|\[)")
    found = {path.name for path in (PROJECT / "src").rglob("*.py") if read.search(path.read_text())}
    assert found == {"process.py"}  # PATH, handed on to programs of others


def test_the_readme_lists_every_package_of_the_core_in_the_order_of_the_contract() -> None:
    told = re.findall(
        r"^\| `(\w+)` \| ", (PROJECT / "README.md").read_text(encoding="utf-8").split("`src/leadsman/core/`")[1], re.M
    )
    packages = {path.parent.name for path in (PROJECT / "src/leadsman/core").glob("*/__init__.py")}
    contracts = tomllib.loads((PROJECT / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"]
    layers = next(contract["layers"] for contract in contracts if contract.get("containers") == ["leadsman.core"])
    ordered = [name for layer in reversed(layers) for name in re.findall(r"\w+", layer) if name in packages]
    assert told == ordered
    assert set(told) == packages


def test_every_package_of_the_core_says_what_lives_there_and_what_it_may_import() -> None:
    for path in (PROJECT / "src/leadsman/core").glob("*/__init__.py"):
        text = ast.get_docstring(ast.parse(path.read_text())) or ""
        assert len(text.splitlines()) >= 3, path
        assert re.search(r"[Ii]mports? (no other|base|everything|farm|steady|analysis)|May import", text), path


def test_pictures_are_few_and_shown_in_the_readme() -> None:
    readme = (PROJECT / "README.md").read_text(encoding="utf-8")
    pictures = list((PROJECT / "docs" / "screenshots").glob("*"))
    assert 0 < len(pictures) < 20
    for picture in pictures:
        assert picture.name in readme
