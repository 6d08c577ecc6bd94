/** Names for the types that are generated from the Python models. */
import type { components } from "./schema.generated";

type Schemas = components["schemas"];

export type Design = Schemas["Design"];
export type Place = Schemas["Place"];
export type Vessel = Schemas["Vessel"];
export type Line = Schemas["Line"];
export type Herd = Schemas["Herd"];
export type Requirement = Schemas["Requirement"];
export type FloatValveOutlet = Schemas["FloatValveOutlet"];
export type Outlet = NonNullable<Design["outlets"]>[number];

export type Analysis = Schemas["AnalysisReport"];
export type Finding = Schemas["FindingReport"];
export type Remedy = Schemas["RemedyReport"];
export type Rest = Schemas["RestReport"];
export type Watering = Schemas["WateringReport"];
export type Visit = Schemas["VisitReport"];
export type Near = Schemas["NearReport"];
export type Trace = Schemas["TroughTraceReport"];
export type Drinking = Schemas["Drinking"];
export type Paddock = Schemas["Paddock"];
export type Timer = Schemas["Timer"];
export type Inflow = NonNullable<Design["inflows"]>[number];
export type SeasonRun = Schemas["StoreSeasonReport"];
export type SeasonAnswer = Schemas["SeasonRunReport"];
export type Yearly = Schemas["YearlyReport"];
export type AskWeather = Schemas["AskWeather"];
export type WeatherData = Schemas["Weather"];
export type BookReport = Schemas["BookReport"];
export type LevelBook = Schemas["LevelBook"];
export type StaffReading = Schemas["StaffReading"];
export type Crop = Schemas["Crop"];
export type PondLoss = Schemas["PondLoss"];
export type OtherNeed = Schemas["OtherReport"];
export type Schools = Schemas["SchoolsReport"];
export type Rotation = Schemas["Rotation"];
export type Season = Schemas["SeasonReport"];
export type HerdNeed = Schemas["HerdReport"];
export type Route = Schemas["RouteReport"];
export type Run = Schemas["RunReport"];
export type Feed = Schemas["FeedReport"];
export type Grade = Schemas["GradeReport"];
export type SectionPoint = Schemas["SectionPointReport"];
export type Sounding = Schemas["SoundingReport"];
export type VerdictNumber = Schemas["NumberReport"];
export type Standing = VerdictNumber["standing"];
export type Quantity = Schemas["QuantityReport"];
export type Unit = Quantity["unit"];
export type Words = (string | Quantity)[];

export type Catalogue = Schemas["CatalogueBody"];
export type DesignHeading = Schemas["DesignHeading"];
export type Revision = Schemas["Revision"];
export type Conflict = Schemas["Conflict"];
export type Problem = Schemas["Problem"];
export type Fault = Schemas["FaultBody"];
