"""Rules and computation: no web framework, no database, no files (but the catalogue's), no clock.

Its packages stand in layers, lowest first: base, physics, catalogue, design, solver, farm and survey, steady,
analysis, findings, report. Each imports only those below it; a contract of the linter holds them to it.
"""
