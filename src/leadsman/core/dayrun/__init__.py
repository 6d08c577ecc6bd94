"""A system over time: vessels fill and empty, the network is steady at every moment, events are met exactly.

May import steady, farm, survey, solver, design and what lies below them.
"""
