"""Winter: which lines freeze and when, what keeps them open, what stays in them when they are drained.

May import analysis and what is under it.
"""
