"""Long runs: handed to a queue in the database, done by workers on this machine or on others.

May import db, formats and core.
"""
