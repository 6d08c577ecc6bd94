"""Formulas on numbers, each with its author: water, friction, fittings, valves, vessels, surge, siphons, air.

Knows no document and no catalogue. May import base.
"""
