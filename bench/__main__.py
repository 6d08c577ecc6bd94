"""Run every benchmark and print one table of ratios with their limits; exit with 1 where one is exceeded."""

import sys

from bench import dayrun, dragging, drinking, editing, editors, parts, season, sizing, solver, workbench
from bench.measure import HEAD


def main() -> int:
    print(HEAD, flush=True)
    over = 0
    for module in (solver, drinking, dayrun, parts, season, sizing, workbench, editing, dragging, editors):
        for result in module.results():
            print(result, flush=True)
            over += not result.kept
    print(f"{over} over their limit" if over else "all within their limits")
    return 1 if over else 0


if __name__ == "__main__":
    sys.exit(main())
