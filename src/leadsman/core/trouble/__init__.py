"""Trouble on the real line: from the symptom to the cause by the cheapest checks, on the network of the plan.

May import everything up to `calibration`.
"""
