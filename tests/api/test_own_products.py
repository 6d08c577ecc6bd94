"""Rows that users add to the catalogue: kept beside those that ship, given back, refused whole."""

import csv
import io
from typing import Any

import psycopg
import pytest
from flask.testing import FlaskClient
from psycopg.types.json import Jsonb

from examples import one_line
from leadsman.core.design.file import read_design
from leadsman.core.steady.solve import solve

PIPE = {"product_id": "shop-32", "name": "Pipe from the shop", "family": "PE100 by outside diameter", "outer_mm": 32.0,
        "wall_mm": 3.0, "roughness_mm": 0.007, "class_bar": 16.0, "price_per_m": 1.1}  # fmt: skip


def listed(client: FlaskClient, table: str) -> dict[str, Any]:
    body = client.get("/api/catalogue").json or {}
    return {one.get("id") or one["product_id"]: one for one in body[table]}


def test_a_row_of_ones_own_is_kept_listed_changed_and_forgotten(client: FlaskClient) -> None:
    answer = client.put("/api/catalogue/pipe", json={"product": PIPE})
    assert (answer.status_code, answer.json) == (200, {"product_ids": ["own-shop-32"]})
    own = listed(client, "pipes")["own-shop-32"]
    assert (own["own"], own["bore_mm"], own["class_kpa"], own["price_per_m"]) == (True, 26.0, 1600.0, 1.1)
    client.put("/api/catalogue/pipe", json={"product": {**PIPE, "price_per_m": 1.25}})
    assert listed(client, "pipes")["own-shop-32"]["price_per_m"] == 1.25
    assert client.delete("/api/catalogue/pipe/own-shop-32").status_code == 204
    assert "own-shop-32" not in listed(client, "pipes")
    assert client.delete("/api/catalogue/pipe/own-shop-32").status_code == 404
    assert client.delete("/api/catalogue/pipe/pe100-sdr11-32").status_code == 404  # what ships cannot be deleted


def test_every_table_ships_with_rows_and_their_sources(client: FlaskClient) -> None:
    body = client.get("/api/catalogue").json or {}
    for table in ("fittings", "parts", "float_valves", "vessels"):
        assert len(body[table]) > 15
        assert {one["source_id"] for one in body[table]} <= set(body["sources"])


@pytest.mark.parametrize("table", ["pipe", "fitting", "part", "float_valve", "vessel"])
def test_a_table_taken_out_can_be_added_to_and_brought_back(client: FlaskClient, table: str) -> None:
    text = client.get(f"/api/catalogue/{table}.csv").get_data(as_text=True)
    shipped = list(csv.DictReader(io.StringIO(text)))
    out = io.StringIO()
    writer = csv.DictWriter(out, list(shipped[0]), lineterminator="\n")
    writer.writeheader()
    writer.writerows([*shipped, {**shipped[3], "product_id": "mine", "name": "Of my own", "source_id": ""}])
    answer = client.post(f"/api/catalogue/{table}", json={"csv": out.getvalue()})
    assert (answer.status_code, answer.json) == (200, {"product_ids": ["own-mine"]})
    again = list(csv.DictReader(io.StringIO(client.get(f"/api/catalogue/{table}.csv").get_data(as_text=True))))
    assert again[:-1] == shipped
    same = [key for key in shipped[3] if key not in ("product_id", "name", "source_id")]
    assert [_figure(again[-1][key]) for key in same] == [_figure(shipped[3][key]) for key in same]


def _figure(text: str) -> float | str:
    try:
        return float(text)
    except ValueError:
        return text


def test_of_a_table_with_one_bad_row_none_is_kept(client: FlaskClient) -> None:
    head = "product_id,name,family,outer_mm,wall_mm,roughness_mm\n"
    answer = client.post("/api/catalogue/pipe", json={"csv": f"{head}a,A,F,32,3,0.007\nb,B,F,32,30,0.007\n"})
    assert answer.status_code == 422
    assert (answer.json or {})["faults"][0]["path"] == "/2"
    assert "own-a" not in listed(client, "pipes")
    assert client.post("/api/catalogue/boats", json={"csv": head}).status_code == 422


def test_a_row_that_an_older_version_took_is_named_and_kept(client: FlaskClient, url: str) -> None:
    with psycopg.connect(url) as connection:
        connection.execute(
            "INSERT INTO own_product (kind, product_id, product) VALUES ('part', 'own-old', %s)",
            [Jsonb({"product_id": "own-old", "thickness": 3})],
        )
    assert (client.get("/api/catalogue").json or {})["unread"] == ["own-old"]
    client.delete("/api/catalogue/part/own-old")
    assert (client.get("/api/catalogue").json or {})["unread"] == []


def test_a_design_with_a_pipe_of_its_own_is_solved_without_the_database() -> None:

    shipped = one_line(**{"lines.0.product": "pe100-sdr11-32"})
    own = one_line(**{"lines.0.product": "own-shop-32", "own_pipes": [{**PIPE, "product_id": "own-shop-32"}]})
    flows = [solve(read_design(one)).outlets["valve"].flow_m3s for one in (shipped, own)]
    assert flows[0] == pytest.approx(flows[1], rel=1e-9)


@pytest.mark.parametrize(("kind", "outlet_kpa"), [("reducer", None), ("filter", 200.0)])
def test_a_reducer_has_a_setting_and_nothing_else_has(client: FlaskClient, kind: str, outlet_kpa: float | None) -> None:
    """Without it no line could hold the part."""
    part = {"product_id": "shop", "name": "From the shop", "kind": kind, "times_ft": 3.0, "outlet_kpa": outlet_kpa}
    refused = client.put("/api/catalogue/part", json={"product": part})
    assert (refused.status_code, refused.get_json()["faults"][0]["code"]) == (422, "not_allowed")
    asked = {"document": one_line(), "line": "line", "part": {**part, "source_id": "own", "product_id": "own-shop"}}
    assert client.post("/api/analyses/fitted", json=asked).status_code == 422


def test_a_fitting_that_takes_more_than_a_line_may_hold_is_refused(client: FlaskClient) -> None:
    narrow = {"product_id": "own-neck", "name": "Neck", "kind": "insert", "k": 90_000.0, "bore_mm": 0.5}
    refused = client.post("/api/analyses/fitted", json={"document": one_line(), "line": "line", "fitting": narrow})
    assert refused.status_code == 422
