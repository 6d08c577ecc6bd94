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
