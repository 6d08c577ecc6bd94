"""Growing in water: doses for the water that is there, and how strong it stays.

May import analysis and what is under it.
"""
