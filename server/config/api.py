"""The one HTTP interface: the routers of all rooms under /api."""

from server.base.http import Api, sent_as_made, tell_problems
from server.bench.api import router as bench
from server.costs.api import router as costs
from server.devices.api import router as devices
from server.document.api import router as document
from server.drying.api import router as drying
from server.due.api import router as due
from server.dust.api import router as dust
from server.faults.api import router as faults
from server.household.api import router as household
from server.household.auth import MemberAuth
from server.household.writes import one_write
from server.installation.api import router as installation
from server.labels.api import router as labels
from server.log.api import router as log
from server.logbook.api import router as logbook
from server.notes.api import router as notes
from server.people.api import router as people
from server.round.api import router as round_
from server.season.api import router as season
from server.setup.api import router as setup
from server.shelf.api import router as shelf
from server.use.api import router as use
from server.wear.api import router as wear
from server.work.api import router as work

api = Api(
    title="Yperon",
    version="1",
    description="Keeps the vacuum cleaners of a household working.",
    auth=MemberAuth(),
    docs_url=None,
    urls_namespace="api",
)
tell_problems(api)
api.add_decorator(one_write, mode="view")
api.add_decorator(sent_as_made)
ROOMS = (
    people, household, round_, setup, use, due, work, drying, notes, bench, faults, shelf, season, dust, wear, costs,
    logbook, labels, document, devices, installation, log,
)  # fmt: skip
for router in ROOMS:
    api.add_router("", router)
