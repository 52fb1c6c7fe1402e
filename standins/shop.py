"""A parts shop that answers with an open price list: `python -m standins.shop --port 8199`.

GET /offers.json and /offers.csv answer its list; ?mood=slow, ?mood=garbage and ?mood=closed show what shops do, too.
All names, numbers and prices are made up.
"""

import argparse
import csv
import io
import json
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import NamedTuple
from urllib.parse import parse_qs, urlsplit

SUPPLIER, CURRENCY, DELIVERY = "Corner parts", "EUR", "3.90"
SLOW_S = 30.0
"""How long it takes when it is slow [s]: more than anybody waits."""


class Line(NamedTuple):
    """One line of the list."""

    code: str
    name: str
    contents: str
    price: str
    lead_days: int = 3
    in_stock: str = "yes"


LINES = (
    Line("RB-1", "Bristle roller for robots", "RB-1", "12.90"),
    Line("RR-1", "Rubber roller for robots", "RR-1", "13.90"),
    Line("SB-3", "Side brush", "SB-3", "3.50", 2),
    Line("SB-3x4", "Side brushes, four", "SB-3 x 4", "9.90", 2),
    Line("RF-8", "Washable robot filter", "RF-8", "6.90"),
    Line("RF-8x3", "Washable robot filters, three", "RF-8 x 3", "14.90", 6),
    Line("XF-8x4", "Robot filters of another maker, four", "XF-8 x 4", "11.90", 9),
    Line("MP-2", "Mop pads, a pair", "MP-2", "7.50", 2),
    Line("MP-2x3", "Mop pads, three pairs", "MP-2 x 3", "17.90", 4),
    Line("K-20", "Robot kit: rollers, brushes, filters", "RB-1 + RR-1 + SB-3 x 3 + RF-8 x 2", "34.90", 5),
    Line("DB-24x2", "Dock bags, 2.4 litres, two", "DB-24 x 2", "8.90"),
    Line("DB-24x6", "Dock bags, 2.4 litres, six", "DB-24 x 6", "21.90", 7),
    Line("XB-24x8", "Dock bags of another maker, eight", "XB-24 x 8", "15.90", 7),
    Line("AR-5", "Belted brush for small robots", "AR-5", "11.50", 8),
    Line("AF-5x2", "Filters for small robots, two", "AF-5 x 2", "9.50"),
    Line("AS-5", "Side brush for small robots", "AS-5", "2.90"),
    Line("CA-4", "Front caster", "CA-4", "8.40", 6),
    Line("FF-5", "Fine filter for small robots", "FF-5", "5.40"),
    Line("HF-9", "Exhaust filter for uprights", "HF-9", "14.90", 5),
    Line("FB-9", "Flat belt for uprights", "FB-9", "4.20"),
    Line("FB-9x2", "Flat belts for uprights, two", "FB-9 x 2", "6.90"),
    Line("UF-9", "Foam for uprights", "UF-9", "5.90", 4, "no"),
    Line("CF-2", "Centre filter for cordless ones", "CF-2", "18.50", 4),
    Line("PL-30x5", "Paper liners for tubs, five", "PL-30 x 5", "11.90"),
    Line("PL-30x10", "Paper liners for tubs, ten", "PL-30 x 10", "19.90", 5),
)


def as_json() -> bytes:
    """The list as JSON."""
    offers = [line._asdict() for line in LINES]
    told = {"supplier": SUPPLIER, "currency": CURRENCY, "delivery": DELIVERY, "offers": offers}
    return json.dumps(told, indent=1).encode()


def as_csv() -> bytes:
    """The list as CSV."""
    out = io.StringIO(newline="")
    rows = csv.writer(out)
    rows.writerow(Line._fields)
    rows.writerows(LINES)
    return out.getvalue().encode()


class Shop(BaseHTTPRequestHandler):
    """Answers with the list, in the mood that is asked for."""

    def do_GET(self) -> None:
        """The list, or what its mood makes of it."""
        where = urlsplit(self.path)
        mood = parse_qs(where.query).get("mood", ["usual"])[0]
        if mood == "slow":
            time.sleep(SLOW_S)
        known = {"/offers.json": (as_json, "application/json"), "/offers.csv": (as_csv, "text/csv")}
        if mood == "closed" or where.path not in known:
            return self.send_error(503 if mood == "closed" else 404)
        make, kind = known[where.path]
        body = b"<html>We moved!</html>" if mood == "garbage" else make()
        self.send_response(200)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)
        return None

    def log_message(self, format: str, *args: object) -> None:
        """Say nothing."""


def opened(port: int = 0) -> ThreadingHTTPServer:
    """The shop, answering in the background; port 0 takes any. Raises `OSError` when the port is taken."""
    server = ThreadingHTTPServer(("127.0.0.1", port), Shop)
    server.daemon_threads = True
    Thread(target=server.serve_forever, daemon=True).start()
    return server


def main() -> None:
    """Open until interrupted."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--port", type=int, default=8199)
    port = parser.parse_args().port
    print(f"The shop answers at http://127.0.0.1:{port}/offers.json")
    ThreadingHTTPServer(("127.0.0.1", port), Shop).serve_forever()


if __name__ == "__main__":
    main()
