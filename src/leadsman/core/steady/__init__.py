"""The steady state of a document: its network, loaded with cases, solved, and told with reasons.

May import farm, survey, solver, design and what lies below them.
"""
