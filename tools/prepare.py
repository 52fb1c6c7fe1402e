"""Sets up what a target needs, once: virtual environment, packages, Node, the built front end, a browser.

Uses only the standard library, since nothing else is there yet. What is done is remembered by a hash of what it was
made from (var/prepared/*), so that a second start installs nothing.
"""

import hashlib
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterable
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
VENV = ROOT / ".venv"
WEB = ROOT / "web"
STAMPS = ROOT / "var" / "prepared"
OLDEST_NODE = (20, 19)
BROWSER = "/usr/bin/chromium-headless-shell"
"""Debian's Chromium that has no window at all: tests take two thirds of the time they take with the other."""


class SetUpError(RuntimeError):
    """A step of the set-up failed; the message says what to do."""


def main(target: str) -> int:
    """Prepare `target`: app, dev or test. Returns the exit code."""
    steps: dict[str, list[Callable[[], None]]] = {
        "app": [python_packages, front_end],
        "dev": [dev_packages, npm_packages],
        "test": [dev_packages, front_end, browser],
    }
    os.chdir(ROOT)
    try:
        _right_python()
        for step in steps[target]:
            step()
    except SetUpError as error:
        print(f"\nSet-up stopped: {error}", file=sys.stderr)
        return 1
    return 0


def python_packages() -> None:
    """The locked packages the app runs with, unless the larger set is there."""
    if not _is_done("dev", _hash([ROOT / "requirements-dev.lock"])):
        _install("app", ROOT / "requirements.lock")


def dev_packages() -> None:
    """The locked packages of the app and of its checks."""
    _install("dev", ROOT / "requirements-dev.lock")


def npm_packages() -> None:
    """The locked packages of the front end."""
    python_packages()
    command = npm()
    key = _hash([WEB / "package-lock.json"])
    if _is_done("npm", key) and (WEB / "node_modules").exists():
        return
    _run("npm packages", [*command, "ci", "--no-progress", "--loglevel=error"], cwd=WEB)
    _done("npm", key)


def front_end() -> None:
    """The front end, built and compressed, unless nothing in it changed."""
    sources = [p for p in WEB.rglob("*") if p.is_file() and not {"node_modules", "dist"} & set(p.parts)]
    key = _hash(sources)
    if _is_done("build", key) and (WEB / "dist" / "index.html").exists():
        return
    npm_packages()
    _run("front end", [*npm(), "run", "--silent", "build"], cwd=WEB)
    _run("compressed copies", [str(VENV / "bin/python"), "-m", "whitenoise.compress", "-q", str(WEB / "dist")])
    _done("build", key)


def browser() -> None:
    """Debian's headless Chromium."""
    if not Path(BROWSER).exists():
        _apt(Path(BROWSER).name)


def _right_python() -> None:
    if sys.version_info[:2] != (3, 11):
        got = ".".join(map(str, sys.version_info[:2]))
        raise SetUpError(f"this is Python {got}; Yperon needs 3.11: make PYTHON=/path/to/python3.11")


def _install(name: str, lock: Path) -> None:
    key = _hash([lock])
    if _is_done(name, key) and (VENV / "bin" / "python").exists():
        return
    _environment()
    pip = [str(VENV / "bin/python"), "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
    _run(f"Python packages ({name})", [*pip, "--require-hashes", "-r", str(lock)])
    _done(name, key)


def _environment() -> None:
    if (VENV / "bin" / "pip").exists():
        return
    try:
        import ensurepip  # noqa: F401 - Debian ships it apart
    except ImportError:
        _apt("python3-venv")
    _run("virtual environment", [sys.executable, "-m", "venv", "--clear", str(VENV)])


def npm() -> list[str]:
    """The npm to use: the system's when its Node is new enough, else one installed from PyPI."""
    node = shutil.which("node")
    if node and shutil.which("npm") and _node_version(node) >= OLDEST_NODE:
        return ["npm"]
    if not (VENV / "bin" / "npm").exists():
        pip = [str(VENV / "bin/python"), "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
        _run("Node", [*pip, "--require-hashes", "-r", str(ROOT / "requirements-node.lock")])
    os.environ["PATH"] = f"{VENV / 'bin'}{os.pathsep}{os.environ['PATH']}"
    return [str(VENV / "bin" / "npm")]


def _node_version(node: str) -> tuple[int, ...]:
    text = subprocess.run([node, "--version"], capture_output=True, text=True, check=False).stdout
    numbers = text.strip().lstrip("v").split(".")[:2]
    return tuple(int(n) for n in numbers) if all(n.isdigit() for n in numbers) else (0, 0)


def _apt(package: str) -> None:
    if not shutil.which("apt-get") or os.geteuid() != 0:
        raise SetUpError(f"the Debian package {package} is missing. Run: sudo apt-get install {package}")
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    _run("package lists", ["apt-get", "update", "-qq"], env=quiet)
    _run(package, ["apt-get", "install", "-y", "-qq", "--no-install-recommends", package], env=quiet)


def _run(what: str, command: list[str], cwd: Path = ROOT, env: dict[str, str] | None = None) -> None:
    print(f"  {what} ...", end="", flush=True)
    began = time.monotonic()
    done = subprocess.run(command, cwd=cwd, env=env, capture_output=True, text=True, check=False)
    if done.returncode:
        print(" failed", flush=True)
        raise SetUpError(f"{what} failed ({' '.join(command)}):\n{(done.stdout + done.stderr)[-3000:]}")
    print(f" {time.monotonic() - began:.0f} s", flush=True)


def _hash(files: Iterable[Path]) -> str:
    digest = hashlib.sha256()
    for path in sorted(files):
        digest.update(str(path.relative_to(ROOT)).encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()


def _is_done(name: str, key: str) -> bool:
    stamp = STAMPS / name
    return VENV.exists() and stamp.exists() and stamp.read_text() == key


def _done(name: str, key: str) -> None:
    STAMPS.mkdir(parents=True, exist_ok=True)
    (STAMPS / name).write_text(key)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1] if len(sys.argv) > 1 else "app"))
