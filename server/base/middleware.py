"""What holds for every request: answers of the API are not kept by anybody, and where a request comes from."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

Answer = Callable[[HttpRequest], HttpResponse]


def fresh_answers(get_response: Answer) -> Answer:
    """Let neither a browser nor anything on the way keep what the API answered: after signing out nothing is left."""

    def answered(request: HttpRequest) -> HttpResponse:
        answer = get_response(request)
        if request.path.startswith("/api/"):
            answer["Cache-Control"] = "no-store"
        return answer

    return answered


def address_of(request: HttpRequest) -> str:
    """The address a request comes from; nothing stands in front of this server whose word for it would count."""
    return str(request.META.get("REMOTE_ADDR", ""))
