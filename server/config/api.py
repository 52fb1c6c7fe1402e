"""The one HTTP interface: all routers under /api."""

from server.bench.api import router as bench
from server.config.http import Api, sent_as_made, tell_problems
from server.household.api import router as household
from server.household.auth import MemberAuth
from server.household.writes import one_write
from server.round.api import router as round_
from server.round.household_api import router as answers
from server.round.labels_api import router as labels
from server.round.machine_api import router as machines
from server.round.rack_api import router as rack
from server.shelf.api import router as shelf
from server.shelf.parts_api import router as parts
from server.trace.api import router as trace

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
for router in (household, round_, machines, answers, rack, labels, bench, trace, shelf, parts):
    api.add_router("", router)
