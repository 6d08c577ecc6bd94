"""The plan held against what was measured on the real line: which one part is off, how surely, what to read next.

May import everything up to `field`.
"""
