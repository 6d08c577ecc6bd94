"""What everything stands on: errors and faults, units, wording, array types, bisection, an integrator.

Imports no other package of the core.
"""
