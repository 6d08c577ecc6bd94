"""The catalogue, as the interface offers it for choosing."""

from flask import Response

from leadsman.api.routes import Routes, answer
from leadsman.api.schemas import AnimalBody, CatalogueBody, PipeProductBody
from leadsman.core.catalogue import pipes, sources
from leadsman.core.catalogue.livestock import Animal, animals
from leadsman.core.units import MILLIMETRE_M

catalogue = Routes("catalogue", __name__, url_prefix="/api/catalogue")


@catalogue.get("", operation_id="readCatalogue", responses={200: CatalogueBody})
def read_catalogue() -> Response:
    """Read the pipes and the classes of animal that a design may name."""
    listed = [
        PipeProductBody(
            id=pipe.product_id,
            name=pipe.name,
            family=pipe.family,
            bore_mm=round(pipe.bore_m / MILLIMETRE_M, 3),
            roughness_mm=round(pipe.roughness_m / MILLIMETRE_M, 5),
            class_kpa=pipe.class_kpa,
            source=f"{sources()[pipe.source_id].title}; {pipe.note}",
        )
        for pipe in pipes().values()
    ]
    return answer(CatalogueBody(pipes=listed, animals=[_animal(one) for one in animals().values()]))


def _animal(animal: Animal) -> AnimalBody:
    return AnimalBody(
        name=animal.name,
        species=animal.species,
        needs_weight=animal.way != "guide",
        gives_milk=animal.way == "equation",
    )
