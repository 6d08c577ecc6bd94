"""Drawings as SVG, in the colours and units of whoever looks at them: for the page and for the printed job sheet."""
