"""One module for each judgement, one registry, what would help, and the verdict.

May import analysis and what lies below it.
"""
