"""Addresses: the API, and the one page of the web app."""

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.cache import never_cache

from server.base import lan
from server.base.http import server_error
from server.config.api import api

FIRST_ASKED = ("/api/session", "/api/round")
"""What the page asks first; the browser may fetch it while it still reads the scripts."""


@never_cache
def page(request: HttpRequest) -> HttpResponse:
    """The web app's page; its scripts and styles have names that change with their content."""
    index = settings.WEB_BUILD / "index.html"
    if not index.exists():
        return HttpResponse("The web app is not built yet. Run: make build", status=503, content_type="text/plain")
    answer = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    if request.user.is_authenticated:
        answer["Link"] = ", ".join(f"<{path}>; rel=preload; as=fetch; crossorigin" for path in FIRST_ASKED)
    return answer


def authority(request: HttpRequest) -> HttpResponse:
    """The authority that a phone is told to trust, where this machine lets phones in."""
    file = settings.VAR_DIR / "lan" / lan.AUTHORITY
    if not file.exists():
        raise Http404
    return HttpResponse(file.read_bytes(), content_type="application/x-x509-ca-cert")


handler500 = server_error
urlpatterns = [path("api/", api.urls), path("authority.crt", authority), re_path(r"^$", page)]
