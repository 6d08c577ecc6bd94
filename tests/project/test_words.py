"""Texts of the page, the command line and the findings keep to the glossary."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
PYTHON = [*(ROOT / "src" / "leadsman").rglob("*.py")]
PAGE = [
    file
    for file in (ROOT / "web" / "src").rglob("*.ts*")
    if not re.search(r"generated|\.test\.|/testing/", file.as_posix())
]
COMMENT = re.compile(r"(?<!:)//[^\n]*|/\*.*?\*/", re.DOTALL)
IMPORT = re.compile(r'^(import|export) .*?from ".*?";$|^import ".*?";$', re.MULTILINE | re.DOTALL)
STRING = re.compile(r'"([^"\n]*)"|`([^`]*)`|>([^<>{}]*)(?=[<{])|\}([^<>{}();="`]*)(?=[<{])', re.DOTALL)
CODE = re.compile(r"=>|&&|\bconst\b|\breturn\b|\binterface\b|;\s*\n")


def banned() -> list[str]:
    """Return the phrases of the column "not"."""
    rows = [
        line.split("|") for line in (ROOT / "docs" / "glossary.md").read_text().splitlines() if line.startswith("| ")
    ]
    return [phrase.strip() for row in rows[1:] for phrase in row[2].split(";")]


def found(phrase: str) -> re.Pattern[str]:
    """Return what finds a phrase in a text; one in quotation marks is the whole text."""
    if phrase.startswith('"'):
        return re.compile("^" + re.escape(phrase.strip('"')) + "$")
    return re.compile(rf"\b{re.escape(phrase)}\b", re.IGNORECASE)


def texts_of_python(source: str) -> Iterator[str]:
    """Yield the texts of a module that people may read: its strings but docstrings."""
    tree = ast.parse(source)
    told = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)
        and node.body
        and isinstance(node.body[0], ast.Expr)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in told:
            yield node.value


def texts_of_page(source: str) -> Iterator[str]:
    """Yield the texts of a module of the page: its strings, and what stands between its elements."""
    code = COMMENT.sub("", IMPORT.sub("", source))
    for match in STRING.finditer(code):
        text = " ".join(next(group for group in match.groups() if group is not None).split())
        if text and not CODE.search(text):
            yield text


def test_texts_are_found_where_they_stand() -> None:
    page = 'const a = "one"; // two\nreturn <p title={`three ${x}`}>four <b>five</b>{y} six</p>;'
    assert [*texts_of_page(page)] == ["one", "three ${x}", "four", "five", "six"]
    assert [*texts_of_python('"""Two."""\nsay("one {}")')] == ["one {}"]


@pytest.mark.parametrize(
    ("phrase", "text"),
    [("hump", "over the hump."), ('"Need"', "Need"), ("good for", "pipe good for 10"), ("sucks", "It sucks there")],
)
def test_a_phrase_is_found_in_a_text(phrase: str, text: str) -> None:
    assert phrase in banned() or phrase == "good for"
    assert found(phrase).search(text)


def test_no_text_uses_a_word_that_the_glossary_replaces() -> None:
    patterns = {phrase: found(phrase) for phrase in banned()}
    assert len(patterns) > 80
    used = [
        f"{file.relative_to(ROOT)}: “{phrase}” in {text!r}"
        for files, texts in ((PYTHON, texts_of_python), (PAGE, texts_of_page))
        for file in files
        for text in texts(file.read_text())
        for phrase, pattern in patterns.items()
        if pattern.search(text)
    ]
    assert not used, "\n".join(used)
