"""What leaves the core as JSON: the models of every answer, and what fills them.

May import everything else in the core.
"""
