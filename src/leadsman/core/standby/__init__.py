"""Standby: a tote or a tank on a trailer for when the line gives nothing.

May import analysis and what is under it.
"""
