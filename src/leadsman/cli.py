"""The commands. Heavy parts are imported by the command that needs them: `solve` starts fast."""

import argparse
import contextlib
import os
import sys
from collections.abc import Iterator, Sequence
from pathlib import Path

from pydantic import BaseModel

from leadsman.core.base.errors import CoreError
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.file import read_design_text

DONE, FAILED, BAD_FILE, NOT_CONVERGED = 0, 1, 2, 3
DEFAULT_PORT = 8317


def main(words: Sequence[str] | None = None) -> int:
    """Run one command and return its exit code: 0 done, 1 failed, 2 bad file or usage, 3 not converged."""
    parser = _parser()
    arguments, rest = parser.parse_known_args(words)
    if rest and arguments.command != "test":
        parser.error(f"unknown words: {' '.join(rest)}")
    try:
        code: int = arguments.run(arguments, rest)
    except _NoFile as missing:
        print(missing, file=sys.stderr)
        return BAD_FILE
    except CoreError as error:
        print(_refusal(error, getattr(arguments, "file", "")), file=sys.stderr)
        return BAD_FILE
    return code


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="leadsman", description="Gravity-fed water lines for livestock and crops.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="command")

    def command(name: str, run: object, text: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=text, description=text)
        sub.set_defaults(run=run)
        return sub

    demo = command("demo", _demo, "install what is missing, start everything, serve the demonstration site")
    demo.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"port of the page (default {DEFAULT_PORT})")
    serve = command("serve", _serve, "serve with several workers; needs DATABASE_URL; no demonstration data")
    serve.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"port of the page (default {DEFAULT_PORT})")
    for served in (demo, serve):
        served.add_argument("--host", default="127.0.0.1", help="address to listen on (default this machine only)")
        served.add_argument(
            "--allow-network", action="store_true", help="let other machines in: there are no accounts, all may edit"
        )
    backup = command("backup", _backup, "write the whole database into one file, compared with what was read")
    backup.add_argument("file", type=Path, help="the file to write; it must not be there yet")
    restore = command("restore", _restore, "put a backup into the database, and compare")
    restore.add_argument("file", type=Path, help="a file that backup wrote")
    restore.add_argument("--replace", action="store_true", help="in place of the plans that the database holds")
    command("test", _test, "install what is missing and run every test; further words go to pytest")
    worker = command("worker", _worker, "take long runs from the queue of DATABASE_URL, beside demo or serve")
    worker.add_argument("--with-parent", action="store_true", help="end with the process that started it")
    solve = command("solve", _solve, "steady flows and heads of a design file")
    solve.add_argument("file", help="a design file, or - for standard input")
    solve.add_argument("--all-open", action="store_true", help="every float valve that is not shut fully open")
    solve.add_argument("--scenario", metavar="NAME", help="in a scenario of the file, by its id or name")
    solve.add_argument(
        "--friction",
        choices=("darcy", "hazen-williams"),
        default="darcy",
        help="the school of friction (default darcy)",
    )
    solve.add_argument(
        "--range", action="store_true", help="also worst and best of every answer over what is uncertain"
    )
    solve.add_argument("--section", metavar="LINE", help="also the grade at every surveyed point of a line")
    solve.add_argument("--json", action="store_true", help="print JSON, always in the document's units")
    _with_units(solve)
    size = command("size", _size, "the cheapest pipes with which everything required holds")
    size.add_argument("file", help="a design file, or - for standard input")
    size.add_argument("--json", action="store_true", help="print JSON, always in the document's units")
    size.add_argument("--tries", type=int, help="plans that are solved where the cheapest cannot be proven")
    _with_units(size)
    check = command("check", _check, "the findings on a design file")
    check.add_argument("file", help="a design file, or - for standard input")
    check.add_argument("--json", action="store_true", help="print JSON, always in the document's units")
    _with_units(check)
    dayrun = command("dayrun", _dayrun, "how vessels and flows stand over time, from midnight on")
    dayrun.add_argument("file", help="a design file, or - for standard input")
    dayrun.add_argument("--hours", type=float, default=24.0, help="how long, 0.01 to 2160 (default 24)")
    dayrun.add_argument("--at", metavar="S,S,…", help="the seconds at which to tell, with commas between")
    dayrun.add_argument("--scenario", metavar="NAME", help="in a scenario of the file, by its id or name")
    dayrun.add_argument("--json", action="store_true", help="print JSON, always in the document's units")
    _with_units(dayrun)
    command("bench", _bench, "measure speed, as ratios within one run")
    command("schema", _schema, "print the JSON Schema of the design file")
    command("openapi", _openapi, "print the OpenAPI document of the server")
    command("units", _units, "print the table of units, as JSON that the page reads")
    return parser


def _with_units(parser: argparse.ArgumentParser) -> None:
    told = "units of what is printed: metric (default), us customary, or imperial gallons"
    parser.add_argument("--units", choices=("metric", "us", "imperial"), default="metric", help=told)


class _NoFile(Exception):
    """A design file cannot be read."""


def _read(file: str) -> Design:
    try:
        text = sys.stdin.buffer.read() if file == "-" else Path(file).read_bytes()
    except OSError as error:
        raise _NoFile(f"{error.filename}: cannot be read ({error.strerror})") from None
    return read_design_text(text)


def _solve(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.report.steady import solve_report
    from leadsman.core.steady.case import scenario_named
    from leadsman.core.steady.solve import solve

    design = _read(arguments.file)
    scenario = scenario_named(design, arguments.scenario) if arguments.scenario else None
    state = solve(design, all_open=arguments.all_open, scenario=scenario, friction=arguments.friction)
    report = solve_report(state, arguments.friction, arguments.section)
    if arguments.range:
        from leadsman.core.report.ranges import ranges_report

        report.ranges = ranges_report(state)
    if arguments.json:
        _print_json(report)
    else:
        from leadsman.core.report.printed import printed

        print(printed(report, arguments.units))
    return DONE if report.converged else NOT_CONVERGED


def _check(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.analysis.analysis import Analysis
    from leadsman.core.report.base import spoken
    from leadsman.core.report.finding import check_report

    analysis = Analysis(_read(arguments.file), over_time=True)
    report = check_report(analysis)
    if arguments.json:
        _print_json(report)
    else:
        units = arguments.units
        for finding in report.findings:
            reason = spoken([*finding.headline_words, ". ", *finding.why_words], units)
            print(f"{finding.severity.upper():5} {finding.where}: {reason}")
            for remedy in finding.remedies or ():
                text, effect = spoken(remedy.text_words, units), spoken(remedy.effect_words, units)
                price = _priced(remedy.price, analysis.design.site.currency)
                print(f"      try {text}: {effect}{price}")
            if finding.remedies and all(remedy.enough is False for remedy in finding.remedies):
                print("      none of these is enough by itself")
        for number in report.verdict.numbers:
            value = spoken([number.value], units) if number.value else number.instead
            print(f"{spoken(number.title, units)}: {value}; {spoken(number.wanted, units)}")
        print(f"{len(report.findings)} finding(s); {len(report.checked)} checks made: {', '.join(report.checked)}")
    return DONE if analysis.state.converged else NOT_CONVERGED


def _dayrun(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.dayrun.run import day_run, times_to_tell
    from leadsman.core.report.dayrun import day_run_report
    from leadsman.core.report.printed import printed_day
    from leadsman.core.steady.case import scenario_named

    design = _read(arguments.file)
    scenario = scenario_named(design, arguments.scenario) if arguments.scenario else None
    length_s, times_s = times_to_tell(arguments.hours, arguments.at)
    report = day_run_report(design, day_run(design, length_s, times_s, scenario), length_s)
    if arguments.json:
        _print_json(report)
    else:
        print(printed_day(report, arguments.units))
    return DONE if report.ended_s is None else NOT_CONVERGED


def _size(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.report.base import spoken
    from leadsman.core.report.sizing import printed_size, size_report
    from leadsman.core.sizing.problem import NothingFits
    from leadsman.core.sizing.size import size

    design = _read(arguments.file)
    try:
        with _kept_from_stdout():
            report = size_report(size(design, most_tries=arguments.tries))
    except NothingFits as none:
        print(f"Nothing fits: {none}.", file=sys.stderr)
        return NOT_CONVERGED
    if arguments.json:
        _print_json(report)
    else:
        print(printed_size(report, design, arguments.units))
        for one in report.why:
            print(f"not {spoken(one.reason, arguments.units)}")
    return DONE


@contextlib.contextmanager
def _kept_from_stdout() -> Iterator[None]:
    """Let what a library writes by itself go to the standard error: the standard output is the answer."""
    sys.stdout.flush()
    kept = os.dup(1)
    os.dup2(2, 1)
    try:
        yield
    finally:
        os.dup2(kept, 1)
        os.close(kept)


def _priced(price: float | None, currency: str) -> str:
    """Return what a change costs, in brackets; nothing where that is not known."""
    return "" if price is None else f" ({price:.2f} {currency})" if price else " (nothing to buy)"


def _schema(_arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.design.file import schema_text

    print(schema_text(), end="")
    return DONE


def _openapi(_arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.api.openapi import openapi_text

    print(openapi_text(), end="")
    return DONE


def _units(_arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.core.base.unit_system import units_text

    print(units_text(), end="")
    return DONE


def _demo(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.demo import run_demo

    return run_demo(arguments.host, arguments.port, arguments.allow_network)


def _serve(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.server import run_serve

    return run_serve(arguments.host, arguments.port, arguments.allow_network)


def _worker(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.job_worker import run_worker

    return run_worker(arguments.with_parent)


def _backup(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.backup import run_backup

    return run_backup(arguments.file)


def _restore(arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.backup import run_restore

    return run_restore(arguments.file, arguments.replace)


def _test(_arguments: argparse.Namespace, rest: list[str]) -> int:
    from leadsman.launch.testing import run_tests

    return run_tests(rest)


def _bench(_arguments: argparse.Namespace, _rest: list[str]) -> int:
    from leadsman.launch.testing import run_benchmarks

    return run_benchmarks()


def _print_json(report: BaseModel) -> None:
    print(report.model_dump_json(indent=2))


def _refusal(error: CoreError, file: str) -> str:
    if isinstance(error, DesignFaults):
        return "\n".join([f"{file}: not loaded, {len(error.faults)} fault(s)", *(f"  {f}" for f in error.faults)])
    path = getattr(error, "path", "")
    return f"{file}: {path or '/'}: {error}"
