"""Ponds: where the float goes, changes of water, what a top-up hides, and treated mains.

May import analysis and what is under it.
"""
