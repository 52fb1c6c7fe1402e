"""Runs the npm that `prepare` has chosen, in the front end's folder."""

import subprocess
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tools.prepare import WEB, npm

if __name__ == "__main__":
    sys.exit(subprocess.run([*npm(), *sys.argv[1:]], cwd=WEB, check=False).returncode)
