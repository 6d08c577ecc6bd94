"""What a plan needs as a workbook: a sheet to buy from, one of joints, one for laying, the order of work."""

from io import BytesIO

from xlsxwriter import Workbook
from xlsxwriter.worksheet import Worksheet

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.base.wording import Unit
from leadsman.core.design import Design, labels
from leadsman.core.report.base import spoken
from leadsman.core.report.parts import PartRowReport, PartsReport

Cell = str | float | int | None
WIDEST = 60  # characters of a column


def parts_workbook(design: Design, report: PartsReport, system: System = "metric") -> bytes:
    """Return an XLSX file of what a design needs, lengths in the reader's units, totals as formulas.

    Text stays text: nothing typed into a plan becomes a formula.
    """
    written = BytesIO()
    # totals are written with their values, for readers that do not calculate
    with Workbook(written, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False}) as book:
        names = labels(design)
        _to_buy(book, report, names, system)
        _joints(book, report, names, system)
        _laying(book, report, names, system)
        _work(book, report, system)
        _costs(book, report, system)
    return written.getvalue()


def _to_buy(book: Workbook, report: PartsReport, names: dict[str, str], system: System) -> None:
    shown = TABLES[system]["m"]
    money = book.add_format({"num_format": "0.00"})
    head = [
        "Shop", "Part", "Product", "Unit", "Needed", "In the shed", "To buy", f"Each [{report.currency}]",
        f"Total [{report.currency}]", "Where", "Assumed", "What size and why", f"Weight [{TABLES[system]['kg'].unit}]",
        "Price from",
    ]  # fmt: skip
    rows: list[list[Cell]] = []
    for row in report.rows:
        scale = shown.factor if row.unit == "m" else 1.0
        each = None if row.price is None else row.price / scale
        where = ", ".join(names.get(part, part) for part in row.where)
        rows.append([
            row.shop, row.name, row.product_id, _unit(row, system), row.count * scale, row.owned * scale,
            row.to_buy * scale, each, None, where, "; ".join(row.assumed),
            "; ".join(spoken(one, system) for one in row.details), _scaled(row.weight_kg, "kg", system),
            row.paid,
        ])  # fmt: skip
    sheet = _sheet(book, "To buy", head, rows)
    for number, row in enumerate(report.rows, start=1):
        if row.total is not None:
            sheet.write_formula(number, 8, f"=G{number + 1}*H{number + 1}", money, row.total)
    last = len(report.rows)
    if last:
        sheet.write_string(last + 1, 1, "Sum of what has a price")
        sheet.write_formula(last + 1, 8, f"=SUM(I2:I{last + 1})", money, report.price)


def _joints(book: Workbook, report: PartsReport, names: dict[str, str], system: System) -> None:
    metre, bore = TABLES[system]["m"], TABLES[system]["mm"]
    head = ["From", "To", "Where", f"At [{metre.unit}]", "Adapters", f"Narrowest bore [{bore.unit}]", "Seal", "Why", ""]
    rows: list[list[Cell]] = []
    for one in report.connections:
        where = one.line or one.place or ""
        chain = one.chain
        seals = list(dict.fromkeys(f"{mate.seal}; {mate.tighten}" for mate in chain.mates)) if chain else []
        rows.append([
            one.first, one.second, names.get(where, where), _scaled(one.at_m, "m", system),
            ", then ".join(link.name for link in chain.links) if chain else "",
            _scaled(chain.narrowest_mm, "mm", system) if chain else None, "\n".join(seals),
            "\n".join(dict.fromkeys(mate.why for mate in chain.mates)) if chain else "", one.trouble,
        ])  # fmt: skip
    _sheet(book, "Joints", head, rows)


def _laying(book: Workbook, report: PartsReport, names: dict[str, str], system: System) -> None:
    metre = TABLES[system]["m"].unit
    head = ["Line", f"From its start [{metre}]", "Spaces between posts", f"and beyond [{metre}]", "Paces", "What to do"]
    rows: list[list[Cell]] = [
        [
            names.get(sheet.line, sheet.line), _scaled(stop.at_m, "m", system), stop.spaces,
            _scaled(stop.beyond_m, "m", system), stop.paces, spoken(stop.told, system),
        ]
        for sheet in report.laying
        for stop in sheet.stops
    ]  # fmt: skip
    _sheet(book, "Laying", head, rows)


def _work(book: Workbook, report: PartsReport, system: System) -> None:
    rows: list[list[Cell]] = [
        [number, spoken(step.told, system), spoken(step.counted, system), step.one_h, step.two_h]
        for number, step in enumerate(report.work, start=1)
    ]
    _sheet(book, "Order of work", ["Step", "What", "Counted from", "One person [h]", "Two people [h]"], rows)


def _costs(book: Workbook, report: PartsReport, system: System) -> None:
    whole = report.whole
    rows: list[list[Cell]] = [
        [spoken(row.told, system), row.price, "typical" if row.typical else None, row.lifted] for row in whole.rows
    ]
    rows.append(["Sum of what has a price", whole.price, None, whole.lifted])
    if whole.per_lease_year is not None:
        rows.append([f"A year of the lease, of {whole.lease_years:g}", whole.per_lease_year, None, None])
    money = f"[{report.currency}]"
    _sheet(book, "Costs", ["What", f"Costs {money}", "Whose price", f"Worth when lifted again {money}"], rows)


def _sheet(book: Workbook, name: str, head: list[str], rows: list[list[Cell]]) -> Worksheet:
    bold = book.add_format({"bold": True, "text_wrap": True, "valign": "top"})
    wrapped = book.add_format({"text_wrap": True, "valign": "top"})
    plain = book.add_format({"valign": "top", "num_format": "0.##"})
    sheet: Worksheet = book.add_worksheet(name)
    sheet.freeze_panes(1, 0)
    sheet.set_landscape()
    sheet.repeat_rows(0)
    for column, title in enumerate(head):
        texts = [str(row[column]) for row in rows if isinstance(row[column], str)]
        longest = max([len(line) for text in [title, *texts] for line in text.split("\n")], default=8)
        sheet.set_column(column, column, min(max(longest, 8), WIDEST))
        sheet.write_string(0, column, title, bold)
    for number, row in enumerate(rows, start=1):
        for column, cell in enumerate(row):
            if isinstance(cell, str):
                sheet.write_string(number, column, cell, wrapped)
            elif cell is not None:
                sheet.write_number(number, column, cell, plain)
    return sheet


def _unit(row: PartRowReport, system: System) -> str:
    metre = TABLES[system]["m"]
    if row.unit == "m":
        return metre.unit
    return f"roll of {row.roll_m * metre.factor:.0f} {metre.unit}" if row.roll_m else row.unit


def _scaled(value: float | None, unit: Unit, system: System) -> float | None:
    return None if value is None else value * TABLES[system][unit].factor
