"""The catalogue, as the interface offers it for choosing, and what users add to it."""

import csv
import io
from collections.abc import Sequence

from flask import Response

from leadsman.api.errors import NotFound
from leadsman.api.routes import Routes, answer, database
from leadsman.api.schemas import (
    AnimalBody,
    CatalogueBody,
    DefaultsBody,
    KeptProducts,
    OwnProduct,
    OwnTable,
    PipeProductBody,
    Problem,
    ProductPath,
    TablePath,
)
from leadsman.core.base.spreadsheet import text_cell
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.catalogue import PipeProduct, fittings, float_valves, parts, pipes, rows, sources, vessels
from leadsman.core.catalogue.livestock import Animal, animals
from leadsman.core.catalogue.own import kept_product, own_product, own_products
from leadsman.core.catalogue.product import OWN, TABLES, Product, Table
from leadsman.core.design.event import WHERE
from leadsman.core.design.site import Site
from leadsman.core.design.start import REACH_FLOW_LPM, REACH_NEEDS_M, USUAL_PIPE
from leadsman.core.design.survey import BarometerSight
from leadsman.core.design.use import Scenario
from leadsman.db.own_product import OwnRow, delete_own, put_own, select_own

catalogue = Routes("catalogue", __name__, url_prefix="/api/catalogue")


@catalogue.get("", operation_id="readCatalogue", responses={200: CatalogueBody})
def read_catalogue() -> Response:
    """Read what a design may name: what ships, and what users have added."""
    own, unread = _own()

    def told(table: Table, packaged: Sequence[Product]) -> list[Product]:
        return [*own[table], *packaged]

    body = CatalogueBody.model_construct(
        pipes=[_pipe(product) for product in told("pipe", list(pipes().values())) if isinstance(product, PipeProduct)],
        fittings=told("fitting", list(fittings().values())),
        parts=told("part", list(parts().values())),
        float_valves=told("float_valve", list(float_valves().values())),
        vessels=told("vessel", list(vessels().values())),
        sources={key: source.title for key, source in sources().items()} | {OWN: "a row of your own"},
        unread=unread,
        animals=[_animal(animal) for animal in animals().values()],
        defaults=DefaultsBody(
            water_c=Site.model_fields["water_c"].default,
            air_c=Scenario.model_fields["air_c"].default,
            reading_air_c=BarometerSight.model_fields["air_c"].default,
            look_every_h=Site.model_fields["look_every_h"].default,
            pipe=USUAL_PIPE,
            reach_flow_lpm=REACH_FLOW_LPM,
            reach_needs_m=REACH_NEEDS_M,
            event_at={kind: list(lists) for kind, lists in WHERE.items()},
        ),
    )
    return answer(body)


@catalogue.get("/<string:table>.csv", operation_id="readTable", responses={200: None})
def read_table(path: TablePath) -> Response:
    """Read one table whole as CSV, to look at or to add to."""
    text = io.StringIO()
    columns = list(rows(path.table)[0])
    writer = csv.DictWriter(text, columns, lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows(path.table))
    for product in _own()[0][path.table]:
        told = product.model_dump(exclude_none=True)
        told = {key: text_cell(value) if isinstance(value, str) else value for key, value in told.items()}
        writer.writerow({key: told[key] for key in columns if key in told})
    headers = {"Content-Disposition": f'attachment; filename="{path.table}.csv"'}
    return Response(text.getvalue(), 200, headers, mimetype="text/csv")


@catalogue.post("/<string:table>", operation_id="addProducts", responses={200: KeptProducts, 422: Problem})
def add_products(path: TablePath, body: OwnTable) -> Response:
    """Keep the rows of one's own in a CSV table: all of them, or none where one of them is amiss."""
    return _kept(path.table, own_products(path.table, body.csv))


@catalogue.put("/<string:table>", operation_id="putProduct", responses={200: KeptProducts, 422: Problem})
def put_product(path: TablePath, body: OwnProduct) -> Response:
    """Keep one row of one's own, in place of one of the same name."""
    return _kept(path.table, [own_product(path.table, body.product)])


@catalogue.delete(
    "/<string:table>/<string:product_id>", operation_id="dropProduct", responses={204: None, 404: Problem}
)
def drop_product(path: ProductPath) -> Response:
    """Forget a row of one's own; designs that it was put into keep it."""
    with database().transaction() as connection:
        if not delete_own(connection, path.table, path.product_id):
            raise NotFound(f"no row of your own called {path.product_id}")
    return Response(status=204)


def _own() -> tuple[dict[str, list[Product]], list[str]]:
    """Return the users' rows by table, and the names of those that can no longer be read."""
    own: dict[str, list[Product]] = {table: [] for table in TABLES}
    unread = []
    with database().transaction() as connection:
        kept = select_own(connection)
    for row in kept:
        product = kept_product(row.kind, row.product)  # type: ignore[arg-type]
        if product is None:
            unread.append(row.product_id)
        else:
            own[row.kind].append(product)
    return own, unread


def _kept(table: Table, products: Sequence[Product]) -> Response:
    with database().transaction() as connection:
        put_own(
            connection,
            [
                OwnRow(kind=table, product_id=product.product_id, product=product.model_dump(exclude_none=True))
                for product in products
            ],
        )
    return answer(KeptProducts(product_ids=[product.product_id for product in products]))


def _pipe(pipe: PipeProduct) -> PipeProductBody:
    source = "a row of your own" if pipe.is_own else sources()[pipe.source_id].title
    return PipeProductBody(
        id=pipe.product_id,
        name=pipe.name,
        outside_mm=pipe.called_mm,
        family=pipe.family,
        bore_mm=round(pipe.bore_m / MILLIMETRE_M, 3),
        roughness_mm=round(pipe.roughness_m / MILLIMETRE_M, 5),
        class_kpa=pipe.class_kpa,
        price_per_m=pipe.price_per_m,
        own=pipe.is_own,
        source=f"{source}; {pipe.note}" if pipe.note else source,
        product=pipe,
    )


def _animal(animal: Animal) -> AnimalBody:
    return AnimalBody(
        name=animal.name,
        species=animal.species,
        gives_milk=animal.gives_milk,
        usual_kg=animal.usual_kg,
    )
