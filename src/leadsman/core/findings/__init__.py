"""Judgements on a design: one module each, one registry."""
