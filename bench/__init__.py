"""Benchmarks: speed as ratios within one run, never as a test."""
