"""Networks of the literature on least-cost design, as design documents."""

from examples import Document

INCH_MM, HEAD_30_M_KPA = 25.4, 30.0 * 9.80665 * 0.9997
# Alperovits & Shamir 1977, Water Resour. Res. 13:885, as printed by Savic & Walters 1997 (both from memory): diameters
# [in] with the price of a metre, ground heights [m], draws [m3/h]; every line 1,000 m, C 130, 30 m of head wanted
TWO_LOOP_PRICES = {1: 2, 2: 5, 3: 8, 4: 11, 6: 16, 8: 23, 10: 32, 12: 50, 14: 60, 16: 90, 18: 130, 20: 170, 22: 300,
                   24: 550}  # fmt: skip
TWO_LOOP_PAIRS = [("source", "n2"), ("n2", "n3"), ("n2", "n4"), ("n4", "n5"), ("n4", "n6"), ("n6", "n7"), ("n3", "n5"),
                  ("n5", "n7")]  # fmt: skip
TWO_LOOP_GROUND = {"n2": 150.0, "n3": 160.0, "n4": 155.0, "n5": 150.0, "n6": 165.0, "n7": 160.0}
TWO_LOOP_DRAWS_M3H = {"n2": 100, "n3": 100, "n4": 120, "n5": 270, "n6": 330, "n7": 200}


def two_loop() -> Document:
    """The two-loop network with its fourteen diameters to choose from."""
    places = [{"id": "hill", "east_m": 0, "north_m": 0, "ground_m": 209.0}]
    places += [
        {"id": node, "east_m": 1_000 * number, "north_m": 0, "ground_m": ground,
         "draw_lpm": TWO_LOOP_DRAWS_M3H[node] / 0.06}
        for number, (node, ground) in enumerate(TWO_LOOP_GROUND.items(), 1)
    ]  # fmt: skip
    tank = {"kind": "upright_cylinder", "diameter_m": 30.0, "height_m": 3.0}
    return {
        "format": "leadsman-design", "version": 1, "name": "Two loops", "site": {"name": "Tamsel Ridge", "water_c": 10},
        "places": places,
        "vessels": [{"id": "source", "place": "hill", "shape": tank, "level_m": 1.0}],
        "lines": [
            {"id": f"l{number}", "from": start, "to": end, "length_m": 1_000.0, "bore_mm": 18 * INCH_MM,
             "hazen_williams_c": 130, "roughness_mm": 0.0}
            for number, (start, end) in enumerate(TWO_LOOP_PAIRS, 1)
        ],
        "outlets": [],
        "requirements": [{"place": node, "pressure_kpa": HEAD_30_M_KPA} for node in TWO_LOOP_GROUND],
        "sizing": {"split": False, "products": [
            {"id": f"{inches}-in", "bore_mm": inches * INCH_MM, "hazen_williams_c": 130, "price_per_m": price}
            for inches, price in TWO_LOOP_PRICES.items()
        ]},
    }  # fmt: skip


# Fujiwara & Khang 1990, Water Resour. Res. 26:539 (from memory): diameters [in] with the price of a metre, lengths
# [m], draws [m3/h], level ground, a source at 100 m, C 130, 30 m of head wanted
HANOI_PRICES = {12: 45.726, 16: 70.4, 20: 98.378, 24: 129.333, 30: 180.748, 40: 278.28}
HANOI_PAIRS = [(1, 2), (2, 3), (3, 4), (4, 5), (5, 6), (6, 7), (7, 8), (8, 9), (9, 10), (10, 11), (11, 12), (12, 13),
               (10, 14), (14, 15), (15, 16), (17, 16), (18, 17), (19, 18), (3, 19), (3, 20), (20, 21), (21, 22),
               (20, 23), (23, 24), (24, 25), (26, 25), (27, 26), (16, 27), (23, 28), (28, 29), (29, 30), (30, 31),
               (32, 31), (25, 32)]  # fmt: skip
HANOI_LENGTHS = [100, 1350, 900, 1150, 1450, 450, 850, 850, 800, 950, 1200, 3500, 800, 500, 550, 2730, 1750, 800, 400,
                 2200, 1500, 500, 2650, 1230, 1300, 850, 300, 750, 1500, 2000, 1600, 150, 860, 950]  # fmt: skip
HANOI_DRAWS_M3H = [890, 850, 130, 725, 1005, 1350, 550, 525, 525, 500, 560, 940, 615, 280, 310, 865, 1345, 60, 1275,
                   930, 485, 1045, 820, 170, 900, 370, 290, 360, 360, 105, 805]  # fmt: skip
HANOI_BEST = 6_081_000.0


def hanoi() -> Document:
    """The Hanoi network with its six diameters to choose from."""
    places = [{"id": "hill", "east_m": 0, "north_m": 0, "ground_m": 99.0}]
    places += [
        {"id": f"n{node}", "east_m": node, "north_m": 0, "ground_m": 0.0, "draw_lpm": draw / 0.06}
        for node, draw in enumerate(HANOI_DRAWS_M3H, 2)
    ]
    name = {1: "source"}
    return {
        "format": "leadsman-design", "version": 1, "name": "Hanoi", "site": {"name": "Tamsel Ridge", "water_c": 10},
        "places": places,
        "vessels": [{"id": "source", "place": "hill", "level_m": 1.0,
                     "shape": {"kind": "upright_cylinder", "diameter_m": 30.0, "height_m": 3.0}}],
        "lines": [
            {"id": f"l{number}", "from": name.get(start, f"n{start}"), "to": f"n{end}", "length_m": float(length),
             "bore_mm": 40 * INCH_MM, "hazen_williams_c": 130, "roughness_mm": 0.0}
            for number, ((start, end), length) in enumerate(zip(HANOI_PAIRS, HANOI_LENGTHS, strict=True), 1)
        ],
        "outlets": [],
        "requirements": [{"place": place["id"], "pressure_kpa": HEAD_30_M_KPA} for place in places[1:]],
        "sizing": {"split": False, "products": [
            {"id": f"{inches}-in", "bore_mm": inches * INCH_MM, "hazen_williams_c": 130, "price_per_m": price}
            for inches, price in HANOI_PRICES.items()
        ]},
    }  # fmt: skip
