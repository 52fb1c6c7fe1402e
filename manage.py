#!/usr/bin/env python
"""Django's command line for this project."""

import os
import sys


def main() -> None:
    """Run the command named on the command line."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
