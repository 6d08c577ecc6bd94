"""What is computed along lines and around outlets: routes, sections, soundings, ranges, refill, leaks, mobs.

`Analysis` holds one plan and works out each part when it is asked for. May import steady and what lies below it.
"""
