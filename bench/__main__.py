"""Run every benchmark and print the ratios; exit with 1 where a bound is not kept."""

import sys

from bench import dragging, drinking, season, solver, workbench


def main() -> int:
    kept = True
    for module in (solver, drinking, season, workbench, dragging):
        for result in module.results():
            print(result, flush=True)
            kept &= result.kept
    return 0 if kept else 1


if __name__ == "__main__":
    sys.exit(main())
