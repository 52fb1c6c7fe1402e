"""The command `yperon` of an installed package: the few things that somebody who runs it needs."""

import os
import sys

COMMANDS = {
    "serve": ("serve", "bring the records up to date and serve the app (--lan: to every device of the house)"),
    "demo": ("serve", "the same with the demo household, in a database of its own"),
    "password": ("changepassword", "set a new password of an account"),
    "backup": ("backup", "copy everything, also while the app runs"),
    "restore": ("restore", "look into a copy; with --yes put it in the place of everything"),
    "export": ("export_household", "write a household into a file"),
    "import": ("import_household", "look into such a file; with --yes bring it in"),
    "import-runs": ("import_runs", "log the runs of a table"),
    "due": ("due", "what needs hands, as text or --json"),
    "faults": ("faults", "look for what is wrong with a machine"),
    "plan": ("plan", "the visits of half a year"),
}
"""What is called how, the command of the project behind it, and what it does."""


def main() -> int:
    """Run one of `COMMANDS`. Returns the exit code."""
    name, *rest = sys.argv[1:] or ["help"]
    if name not in COMMANDS:
        print("yperon COMMAND [--help]\n")
        for command, (_, does) in COMMANDS.items():
            print(f"  {command:<12} {does}")
        return 0 if name in ("help", "--help", "-h") else 2
    if name == "demo":
        os.environ["YPERON_DEMO"] = "1"
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    from django.conf import settings
    from django.core.exceptions import ImproperlyConfigured
    from django.core.management import execute_from_command_line

    try:
        settings.VAR_DIR  # noqa: B018  reads the environment, which says what is wrong with it
    except ImproperlyConfigured as error:
        print(f"yperon: {error}", file=sys.stderr)
        return 2
    execute_from_command_line([f"yperon {name}", COMMANDS[name][0], *rest])
    return 0


if __name__ == "__main__":
    sys.exit(main())
