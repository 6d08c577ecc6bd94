"""The job sheet: everything of a plan that is taken outside, as one PDF.

`content` gathers it in words and drawings, `job_sheet.typ` lays it out, `pdf` sets it.
"""
