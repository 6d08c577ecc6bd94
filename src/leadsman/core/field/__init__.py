"""The real line: what is seen and measured on it, entry by entry; what to do at first water.

May import everything up to `analysis`.
"""
