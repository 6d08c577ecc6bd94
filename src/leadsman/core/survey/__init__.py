"""Heights and lengths from readings: level books, sights, paces; tracks, profiles, relief, reach, files.

Works on documents, knows nothing of the farm. May import base, physics, catalogue and design.
"""
