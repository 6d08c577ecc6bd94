"""A pipe network as numbers, and its solution: matrix, elimination, global gradient, parts at rest.

Knows no document. May import base and physics.
"""
