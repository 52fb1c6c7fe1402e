"""Prints the season of a household, visit by visit, or as JSON."""

import json
from argparse import ArgumentParser

from django.core.management.base import BaseCommand, CommandError

from server.household.models import Household, Member
from server.household.services import owner_of
from server.season.planning import season_of
from server.season.schemas import SeasonOut, season_out
from server.shelf.buying import shelf


class Command(BaseCommand):
    """`python manage.py plan [--json] [--household NAME]`."""

    help = "Print the coming half year in visits: on which days, what is done, how long it takes."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which household, and whether as JSON."""
        parser.add_argument("--json", action="store_true", help="print JSON, as the API gives it")
        parser.add_argument("--household", help="the name of one household; all if not given")

    def handle(self, *, household: str | None, json: bool, **options: object) -> None:
        """Print the plan. Raises `CommandError` when no household has that name."""
        rows = Household.objects.order_by("name")
        members = [owner_of(row) for row in (rows.filter(name=household) if household else rows)]
        if household and not members:
            raise CommandError(f"There is no household {household!r}. Leave --household out to see all.")
        plans = [(member, season_out(season_of(member), shelf(member).currency)) for member in members]
        if json:
            self.stdout.write(_json(plans))
            return
        for member, plan in plans:
            self.stdout.write("\n".join(_lines(member, plan)))


def _json(plans: list[tuple[Member, SeasonOut]]) -> str:
    rows = [{"household": member.household.name, **plan.model_dump(mode="json")} for member, plan in plans]
    return json.dumps(rows, indent=2, ensure_ascii=False)


def _lines(member: Member, plan: SeasonOut) -> list[str]:
    names = {one.id: one.name for one in plan.machines}
    lines = [f"{member.household.name}: {plan.score.visits} visits, {plan.score.minutes:.0f} min"]
    for visit in plan.visits:
        lines.append(f"{visit.date:%a %d %b %Y}  {visit.minutes:.0f} min")
        lines += [f"    {names[job.machine_id]}: {job.slot_name}, {job.action.replace('_', ' ')}" for job in visit.jobs]
    lines += [f"too late: {one.machine_name}, {one.slot_name} from {one.since}" for one in plan.unmet]
    return lines
