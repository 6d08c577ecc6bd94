"""What a plan needs, one row for each thing that is bought, with its price, and where on the plan it goes."""

from dataclasses import dataclass, field
from typing import Literal

from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import (
    FittingProduct,
    FloatValveProduct,
    PartProduct,
    PipeProduct,
    VesselProduct,
    fittings,
    vessels,
)
from leadsman.core.catalogue.product import Ended
from leadsman.core.design import Design, FloatValveOutlet, label
from leadsman.core.design.price_book import new_price_at, price_at, used_price_at
from leadsman.core.parts.accessories import Shop, accessories, slack_of_hoses
from leadsman.core.parts.chain import coupling
from leadsman.core.parts.connection import Connection, connections
from leadsman.core.parts.mate import CLAMP, HOSE, TAPERED, WASHER
from leadsman.core.parts.roll import Rolls, rolls_of

NO_PARTS = ("entrance", "exit")  # losses, and nothing that is bought
CLAMPS_EACH = 2  # on each barb: it stands under pressure day and night
JOINTS_A_TAPE_ROLL = 20  # tapered joints to a roll of tape; ours, no source
TAPE, WASHERS, CLAMPS, SUNDRY_PRICES = "thread-tape", "washer-set", "hose-clamp", (1.5, 0.3, 0.9)  # typical, rough


@dataclass(frozen=True, kw_only=True)
class Prices:
    """What one of it costs as it is bought, new, and used [the site's money]; None where that is not known."""

    bought: float | None = None
    new: float | None = None
    used: float | None = None


@dataclass
class Row:
    """One thing that is bought: so many pieces, or metres, each at its prices.

    `details` say what size it has to be, and why; `weighs_kg` is what one weighs, None where nobody knows.
    `where` are ids of lines, vessels, outlets and places on the plan; `owned` is what is in the shed already.
    `assumed` says what of it is our assumption, for people.
    """

    product_id: str
    name: str
    shop: Shop
    unit: Literal["piece", "roll", "m"]
    count: float
    prices: Prices
    where: list[str] = field(default_factory=list)
    owned: float = 0.0
    assumed: list[str] = field(default_factory=list)
    roll_m: float | None = None
    details: list[Wording] = field(default_factory=list)
    weighs_kg: float | None = None

    @property
    def price(self) -> float | None:
        """What one of it costs; None where that is not known."""
        return self.prices.bought

    @property
    def weight_kg(self) -> float | None:
        """What is left to buy of it weighs [kg]; None where nobody knows."""
        return None if self.weighs_kg is None else self.weighs_kg * self.to_buy

    @property
    def to_buy(self) -> float:
        """What is left to buy."""
        return max(self.count - self.owned, 0.0)

    @property
    def total(self) -> float | None:
        """What is left to buy costs."""
        return None if self.price is None else self.to_buy * self.price


@dataclass(frozen=True, kw_only=True)
class PartsList:
    """Every row, the connections and the rolls that they come from; `price` of what is to be bought and priced.

    `unpriced` rows have no price; `unsolved` connections no chain.
    """

    rows: list[Row]
    connections: list[Connection]
    rolls: list[Rolls]

    @property
    def price(self) -> float:
        """What is to be bought costs, as far as prices are known."""
        return sum(row.total or 0.0 for row in self.rows)

    @property
    def weight_kg(self) -> float:
        """What is to be bought weighs, as far as that is known [kg]: pipe and vessels."""
        return sum(row.weight_kg or 0.0 for row in self.rows)

    @property
    def unweighed(self) -> list[Row]:
        """Pipe and vessels of which something is to be bought whose weight is not known."""
        heavy = ("pipe", "troughs and tanks")
        return [row for row in self.rows if row.shop in heavy and row.weight_kg is None and row.to_buy > 0.0]

    @property
    def unpriced(self) -> list[Row]:
        """Rows of which something is to be bought and no price is known."""
        return [row for row in self.rows if row.price is None and row.to_buy > 0.0]

    @property
    def unsolved(self) -> list[Connection]:
        """Connections that no chain is known for."""
        return [one for one in self.connections if one.chain is None]


def parts_list(design: Design) -> PartsList:
    """Return what a design needs."""
    joined, cut = connections(design), rolls_of(design)
    found = _Rows(design)
    slack = slack_of_hoses(design)
    for rolls in cut:
        found.pipe(rolls, slack)
    for connection in joined:
        found.connection(connection)
    found.joins(cut)
    found.fitted()
    found.standing()
    found.sundries(joined, cut)
    found.beside(cut)
    return PartsList(rows=found.told(), connections=joined, rolls=cut)


class _Rows:
    """Rows that are being counted, by their product."""

    def __init__(self, design: Design) -> None:
        self.design, self.rows = design, dict[str, Row]()

    def add(self, product: Ended, count: float, where: str, assumed: tuple[str, ...] = ()) -> None:
        """Count a product."""
        key = product.product_id
        if key not in self.rows:
            self.rows[key] = Row(
                product_id=key, name=product.name, shop=shop_of(product), unit="piece", count=0.0,
                prices=self._prices(key, product.price, product.is_own),
            )  # fmt: skip
        row = self.rows[key]
        row.count += count
        _note(row.where, where)
        for one in assumed:
            _note(row.assumed, one)

    def pipe(self, rolls: Rolls, slack: dict[str, Wording]) -> None:
        """Count a pipe product by rolls, or by metres; `slack` says which hoses lack some."""
        product = rolls.product
        by_roll = rolls.roll_m is not None
        prices = self._prices(product.product_id, product.price_per_m, product.is_own, rolls.roll_m or 1.0)
        count = float(rolls.count) if by_roll else rolls.length_m
        self.rows[product.product_id] = Row(
            product_id=product.product_id, name=product.name, shop="pipe", unit="roll" if by_roll else "m",
            count=count, roll_m=rolls.roll_m, prices=prices,
            where=list(dict.fromkeys(piece.line for piece in rolls.pieces)), details=_of_pipe(rolls, slack),
            weighs_kg=None if rolls.weight_kg is None else rolls.weight_kg / count,
        )  # fmt: skip

    def connection(self, connection: Connection) -> None:
        """Count what a connection takes: its own products, and the adapters of its chain."""
        where = connection.line or connection.place or ""
        for product in connection.extra:
            self.add(product, 1.0, where, connection.assumed)
        for link in connection.chain.links if connection.chain else ():
            self.add(link.product, 1.0, where)

    def joins(self, cut: list[Rolls]) -> None:
        """Count what joins the pieces of each line."""
        for rolls in cut:
            chain = coupling(rolls.product)
            for line, _ in rolls.joins:
                for link in chain.links if chain else ():
                    self.add(link.product, 1.0, line)

    def fitted(self) -> None:
        """Count fittings that lines have by name; adapters, which have ends, come from the joints."""
        for line in self.design.lines:
            for fitting in line.fittings:
                product = fittings().get(fitting.product or "")
                if product is not None and not product.end_list and not product.product_id.startswith(NO_PARTS):
                    self.add(product, float(fitting.count), line.id)

    def standing(self) -> None:
        """Count vessels, and outlets other than float valves, which come with their connections."""
        for vessel in self.design.vessels:
            product = vessels().get(vessel.product or "")
            if product is not None:
                self.add(product, float(vessel.count), vessel.id)
                self.rows[product.product_id].weighs_kg = vessel.empty_kg or product.empty_kg
            else:
                name = f"Liner or clay for {label(vessel)}, if it needs one" if vessel.role == "pond" else label(vessel)
                self._unnamed(f"vessel-{vessel.id}", name, "troughs and tanks", float(vessel.count), vessel.id)
                self.rows[f"vessel-{vessel.id}"].weighs_kg = vessel.empty_kg
        for outlet in self.design.outlets:
            if not isinstance(outlet, FloatValveOutlet):
                self._unnamed(f"outlet-{outlet.id}", label(outlet), "taps and valves", 1.0, outlet.id)

    def sundries(self, joined: list[Connection], cut: list[Rolls]) -> None:
        """Count clamps, washers and tape by the seals of all joints."""
        mates = [mate for one in joined if one.chain for mate in one.chain.mates]
        for rolls in cut:
            chain = coupling(rolls.product)
            mates += (chain.mates if chain else []) * len(rolls.joins)
        clamps = CLAMPS_EACH * sum(mate is CLAMP for mate in mates)
        washers = sum(mate in (HOSE, WASHER) for mate in mates)
        taped = sum(mate is TAPERED for mate in mates)
        tape = -(-taped // JOINTS_A_TAPE_ROLL)
        wanted = ((TAPE, "Thread tape, roll", tape), (WASHERS, "Washer or O-ring", washers),
                  (CLAMPS, "Hose clamp", clamps))  # fmt: skip
        for (product_id, name, count), price in zip(wanted, SUNDRY_PRICES, strict=True):
            if count:
                self.rows[product_id] = Row(
                    product_id=product_id, name=name, shop="sundries", unit="piece", count=float(count),
                    prices=self._prices(product_id, price),
                )  # fmt: skip

    def beside(self, cut: list[Rolls]) -> None:
        """Count what goes with the plan beside pipe, joints, valves and vessels."""
        for one in accessories(self.design, cut):
            self.rows[one.product_id] = Row(
                product_id=one.product_id, name=one.name, shop=one.shop, unit=one.unit, count=one.count,
                where=one.where, details=one.details,
                prices=self._prices(one.product_id, one.price, one.in_site_money),
            )  # fmt: skip

    def _unnamed(self, product_id: str, name: str, shop: Shop, count: float, where: str) -> None:
        self.rows[product_id] = Row(
            product_id=product_id, name=f"{name}: not chosen yet", shop=shop, unit="piece", count=count,
            where=[where], prices=self._prices(product_id, None),
        )  # fmt: skip

    def _prices(self, product_id: str, typical: float | None, own: bool = False, times: float = 1.0) -> Prices:
        """Return the prices of a row, of so many metres or pieces at a time."""
        each = (
            price_at(self.design, product_id, typical, own),
            new_price_at(self.design, product_id, typical, own),
            used_price_at(self.design, product_id),
        )
        bought, new, used = (None if price is None else price * times for price in each)
        return Prices(bought=bought, new=new, used=used)

    def told(self) -> list[Row]:
        """Return the rows by the kind of shop, with what is in the shed."""
        owned = {item.product: item.count for item in self.design.shed}
        for row in self.rows.values():
            row.owned = owned.get(row.product_id, 0.0)
        order: list[Shop] = ["pipe", "fittings", "taps and valves", "troughs and tanks", "sundries"]
        return sorted(self.rows.values(), key=lambda row: order.index(row.shop))


def _of_pipe(rolls: Rolls, slack: dict[str, Wording]) -> list[Wording]:
    """Say what is worth a look before a pipe is bought: a roll that is hardly used, a hose without slack."""
    found = []
    little_m = rolls.least_used_m
    if little_m is not None:
        metres = Quantity(value=little_m, unit="m", digits=1)
        found.append(say("of one roll only {} are used: a way that much shorter, or an old piece, saves it", metres))
    return [*found, *(slack[line] for line in {piece.line: None for piece in rolls.pieces} if line in slack)]


def shop_of(product: Ended | PipeProduct) -> Shop:
    """Return the kind of shop that a product comes from."""
    match product:
        case PipeProduct():
            return "pipe"
        case FittingProduct():
            return "fittings"
        case PartProduct() | FloatValveProduct():
            return "taps and valves"
        case VesselProduct():
            return "troughs and tanks"
    return "sundries"


def _note(noted: list[str], one: str) -> None:
    if one and one not in noted:
        noted.append(one)
