"""The description of the API that docs/openapi.json holds and the front end's types come from."""

import json
from typing import Any

from pydantic.json_schema import models_json_schema

from leadsman.api import schemas
from leadsman.api.app import ROUTES, create_app
from leadsman.api.schemas.log import (
    AskExpected,
    AskLevels,
    AskTrouble,
    LogBody,
    LogKept,
    LogSent,
    LooksBody,
    PhotoForm,
    PhotoKept,
    RoundBody,
)
from leadsman.api.schemas.upkeep import AskLedger, AskUpkeep, FeedAddress
from leadsman.core.report.background import PictureReport, ReachReport, ReliefReport
from leadsman.core.report.calibration import CalibrationReport
from leadsman.core.report.choices import PipeChoicesReport, ValveChoicesReport
from leadsman.core.report.comparison import ComparisonsReport
from leadsman.core.report.dayrun import DayRunReport
from leadsman.core.report.dosing import DosesReport, MixedReport
from leadsman.core.report.finding import RemediesReport
from leadsman.core.report.first_water import FirstWaterReport
from leadsman.core.report.glance import GlanceReport
from leadsman.core.report.levels import ExpectedReport, LevelsReport
from leadsman.core.report.options import OptionsReport
from leadsman.core.report.parts import PartsReport
from leadsman.core.report.pond import PondsReport
from leadsman.core.report.preview import PreviewReport
from leadsman.core.report.route import CourseReport
from leadsman.core.report.row_season import RowSeasonsReport
from leadsman.core.report.schools import SchoolsReport
from leadsman.core.report.standby import StandbysReport
from leadsman.core.report.supply import SeasonRunReport
from leadsman.core.report.survey_import import ImportReport, ProfileAnswer
from leadsman.core.report.trouble import TroubleReport
from leadsman.core.report.upkeep import LedgerReport, UpkeepReport
from leadsman.core.report.winter import WinterAnswer
from leadsman.core.report.workbench import AnalysisReport, RestReport
from leadsman.core.report.yearly import ComparisonReport
from leadsman.formats.importing import ImportAsked
from leadsman.formats.relief_reader import ReliefAsked
from leadsman.settings import Settings

DESCRIBED = (
    AnalysisReport, ComparisonReport, CourseReport, DayRunReport, FirstWaterReport, GlanceReport,
    schemas.AskMixed, schemas.AskWinter, DosesReport, MixedReport, WinterAnswer,
    PondsReport, RowSeasonsReport, StandbysReport, OptionsReport, schemas.CompareOptions,
    CalibrationReport, PreviewReport, ImportAsked,
    ImportReport, PartsReport, PictureReport, PipeChoicesReport, ProfileAnswer, ReachReport, ReliefAsked, ReliefReport,
    RemediesReport, RestReport, SchoolsReport, SeasonRunReport,
    schemas.LayingDrawn, schemas.SettingsDrawn, ValveChoicesReport,
    schemas.Analyse,
    schemas.AskCourse, schemas.AskDay, schemas.AskJob, schemas.JobBody, schemas.AskPipes, schemas.AskGround,
    schemas.AskProfile, schemas.AskReach, schemas.GroundBody, schemas.AskRemedies, schemas.AskValves,
    schemas.AskWeather, schemas.AskInUnits,
    schemas.AskComparisons, ComparisonsReport,
    schemas.AskSheet, schemas.ArchiveForm, schemas.ArchiveRead, schemas.CatalogueBody,
    AskExpected, ExpectedReport, AskLevels, LevelsReport, AskLedger, AskUpkeep, FeedAddress, LedgerReport, UpkeepReport,
    schemas.CompareSchools, AskTrouble, TroubleReport, LogBody, LogKept, LogSent, LooksBody, RoundBody,
    PhotoForm, PhotoKept,
    schemas.CompareYears, schemas.Conflict, schemas.DeletedBody, schemas.DesignList, schemas.ExportAsked,
    schemas.FitInLine, schemas.Fitted, schemas.Health, schemas.ImportForm, schemas.KeptProducts, schemas.AskEdit,
    schemas.AskPreview, schemas.EditedBody, schemas.NewSite, schemas.NewDesign, schemas.OwnProduct, schemas.OwnTable,
    schemas.PictureForm, schemas.Pins, schemas.Problem, schemas.ReliefForm, schemas.Revision, schemas.RevisionLabel,
    schemas.RevisionList, schemas.Save, schemas.SavedAnalysis, schemas.SavedBody, schemas.WeatherBody,
    schemas.WeatherTable,
)  # fmt: skip

NOWHERE = "postgresql://described-without-a-database/"
PROBLEM = "#/components/schemas/Problem"


def openapi_document() -> dict[str, Any]:
    """Return the OpenAPI 3.1 document; bodies are described by pydantic itself, in one form each."""
    routes = [undescribed.described() for undescribed in ROUTES]
    document: dict[str, Any] = create_app(Settings(database_url=NOWHERE), routes).api_doc
    _, described = models_json_schema(
        [(model, "validation") for model in DESCRIBED], ref_template="#/components/schemas/{model}"
    )
    document["components"] = {"schemas": described["$defs"]}
    refused = {"description": "Refused", "content": {"application/json": {"schema": {"$ref": PROBLEM}}}}
    for operations in document["paths"].values():
        for operation in operations.values():
            operation["responses"].pop("422", None)  # the library's own body; ours where something can be refused
            if "requestBody" in operation or "parameters" in operation:
                operation["responses"]["422"] = refused
    return document


def openapi_text() -> str:
    """Return the document as docs/openapi.json holds it."""
    return json.dumps(openapi_document(), indent=2, ensure_ascii=False, sort_keys=True) + "\n"
