"""The shelf of Quillgate 9: what is kept under which numbers, what lies there, and the list of the shop near by."""

from collections.abc import Iterator
from dataclasses import replace

from care.shelf import FitCheck, PartNumber, SparePart
from care.shelf.costs import CostBasis
from demo.story import Event, Story
from server.machines.containers import Size, tell_size
from server.shelf import prices, records
from server.shelf.cost_basis import tell_worth
from server.shelf.services import count, keep_kind, propose
from server.wear.services import measure, wear_of
from standins import shop

ROBOT_FILTER = (
    PartNumber("RF-8", check=FitCheck.FITS),
    PartNumber("XF-8", maker=False, check=FitCheck.DIFFERS, note="a tight fit, and its arrow is printed inside"),
)
DOCK_BAG = (
    PartNumber("DB-24", check=FitCheck.FITS),
    PartNumber(
        "XB-24", maker=False, check=FitCheck.DIFFERS, note="its collar is of card: press it home until it clicks"
    ),
)
KEPT: dict[str, tuple[tuple[PartNumber, ...], int]] = {
    "Bristle roller, Ground robot": ((PartNumber("RB-1", check=FitCheck.FITS),), 1),
    "Rubber roller, Ground robot": ((PartNumber("RR-1", check=FitCheck.FITS),), 1),
    "Side brush, Ground robot": ((PartNumber("SB-3", check=FitCheck.FITS),), 2),
    "Filter, Ground robot": (ROBOT_FILTER, 0),
    "Mop pads, Ground robot": ((PartNumber("MP-2"),), 2),
    "Dust bag, Ground dock": (DOCK_BAG, 2),
    "Brush, Attic robot": ((PartNumber("AR-5"),), 1),
    "Filter, Attic robot": ((PartNumber("AF-5"),), 1),
    "Side brush, Attic robot": ((PartNumber("AS-5"),), 2),
    "Belt, Hall upright": ((PartNumber("FB-9"),), 1),
    "Foam filter, Hall upright": ((PartNumber("UF-9"),), 1),
    "Centre filter, Stairs cordless": ((PartNumber("CF-2"),), 1),
    "Paper liner, Workshop tub": ((PartNumber("PL-30"),), 0),
    "Front caster, Ground robot": ((PartNumber("CA-4"),), 1),
    "Front caster, Attic robot": ((PartNumber("CA-4", maker=False),), 1),
    "Exhaust filter, Hall upright": ((PartNumber("HF-9"),), 1),
    "Fine filter, Attic robot": ((PartNumber("FF-5"),), 1),
}
"""Kind of part: its numbers, and how many lay there when they were counted: no paper liner and no robot filter."""


MEASURED = (
    ("Ground robot", "side-brush", "bend", ((60, 1), (35, 3), (14, 4))),
    ("Ground robot", "rubber-roller", "nicks", ((50, 0), (24, 1), (10, 2))),
    ("Attic robot", "side-left", "bend", ((95, 1), (50, 2), (17, 2))),
    ("Hall upright", "belt", "width", ((300, 10.2), (162, 9.9), (26, 9.5))),
    ("Stairs cordless", "filter", "crack", ((44, 0), (14, 0))),
)
"""What was measured: machine, place, measure, and (days ago, figure)."""


def _measured(story: Story, machine: str, slot: str, key: str, days_ago: int, value: float) -> Event:
    def call() -> None:
        machine_id = story.machines[machine]
        item = next(one.item for one in wear_of(story.member, machine_id) if one.slot.key == slot)
        measure(member=story.member, machine_id=machine_id, item_id=item.id, key=key, value=value)

    return Event(story.when(days_ago, 21, 30), f"{key} of {slot}", call)


def measured(story: Story) -> Iterator[Event]:
    """What somebody held a ruler to."""
    for machine, slot, key, told in MEASURED:
        for days_ago, value in told:
            yield _measured(story, machine, slot, key, days_ago, value)


def events(story: Story) -> Iterator[Event]:
    """The drawer was sorted two weeks ago, and the shop's list taken."""

    def sorted_out() -> None:
        propose(member=story.member)
        for spare_id, part in records.kinds_of(story.member).items():
            if part.name in KEPT:
                numbers, there = KEPT[part.name]
                kept: SparePart = replace(part, numbers=numbers)
                keep_kind(member=story.member, spare_id=spare_id, part=kept)
                if there:
                    count(member=story.member, spare_id=spare_id, there=there)

    def list_taken() -> None:
        prices.take_file(
            member=story.member,
            data=shop.as_csv(),
            supplier=shop.SUPPLIER,
            currency=shop.CURRENCY,
            delivery=shop.DELIVERY,
        )

    def sizes_told() -> None:
        bag = Size(2.4, "L", known_volume=2.6, known_unit="qt", known_weeks=2)
        for machine, slot, size in (("Ground dock", "bag", bag), ("Stairs cordless", "bin", Size(0.5, "L"))):
            tell_size(member=story.member, machine_id=story.machines[machine], slot=slot, size=size)

    def worth_told() -> None:
        ground = story.machines["Ground robot"]
        basis = CostBasis(price_new=649_00, life_years=8, hour_value=12_00)
        tell_worth(member=story.member, machine_id=ground, basis=basis, guarantee_until=story.day(-300))

    yield Event(story.when(400, 20), "sizes", sizes_told)
    yield Event(story.when(399, 20), "worth", worth_told)
    yield Event(story.when(13, 20), "shelf", sorted_out)
    yield Event(story.when(13, 21), "prices", list_taken)
