"""Where a trough or a tank could stand: positions tried on the network, each with cost, flow, walk and stand.

May import what `analysis` may, and `analysis`.
"""
