"""Who needs water and where it comes from: herds, grazing, crops, ponds; rain, springs, rams, haul; the store.

Works on documents. May import base, physics, catalogue and design.
"""
