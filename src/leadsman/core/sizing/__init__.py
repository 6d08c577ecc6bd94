"""Sizing: the cheapest pipes with which every outlet gets what is required of it.

May import analysis and what is under it.
"""
