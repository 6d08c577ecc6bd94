"""Clients of services that lie outside: what they ask, and what they make of every way of failing."""
