"""Parts and ways of doing it side by side, each with what it costs and does on this plan.

One module for each question; `all` lists them. May import what `parts` may.
"""
