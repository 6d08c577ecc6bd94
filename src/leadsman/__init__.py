"""Leadsman: gravity-fed water lines for livestock and crops."""
