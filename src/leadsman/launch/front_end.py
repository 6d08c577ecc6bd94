"""Building the front end, only when its sources changed since the last build."""

import fcntl
import gzip
import hashlib
import subprocess
from collections.abc import Iterable
from pathlib import Path

from leadsman.launch import PROJECT, LaunchError, step
from leadsman.launch.debian import require_node

WEB = PROJECT / "web"
MODULES_STAMP = WEB / "node_modules" / ".installed-for"
BUILD_STAMP = WEB / "dist" / ".built-from"
BUILD_LOCK = PROJECT / ".front-end.lock"
PACKED = {".js", ".css", ".svg"}  # fonts are packed as they come


def install_modules() -> None:
    """Install the front end's packages from its lock file, where they are not those of the lock file.

    Raises:
        LaunchError: npm failed.
    """
    lock = digest([WEB / "package-lock.json"])
    if not _stamped(MODULES_STAMP, lock):
        require_node()
        step("installing the front end's packages (about a minute)")
        _npm("ci", "--no-audit", "--no-fund")
        MODULES_STAMP.write_text(lock)


def build() -> None:
    """Build web/dist, where it is missing or older than its sources.

    Raises:
        LaunchError: npm failed.
    """
    sources = digest(source_files())
    if _stamped(BUILD_STAMP, sources):
        return
    with BUILD_LOCK.open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # one builds, the others wait for that
        if _stamped(BUILD_STAMP, sources):
            return
        install_modules()
        step("building the front end")
        _npm("run", "build", "--silent")
        pack(WEB / "dist" / "assets")
        BUILD_STAMP.write_text(sources)


def pack(folder: Path) -> None:
    """Write each script, style and drawing of a folder once more, gzipped, for the server to send as it is."""
    for path in folder.iterdir():
        if path.suffix in PACKED:
            path.with_name(f"{path.name}.gz").write_bytes(gzip.compress(path.read_bytes(), mtime=0))


def source_files() -> list[Path]:
    """Return the files that a build is made from."""
    top = [path for path in WEB.iterdir() if path.is_file()]
    return sorted(top + [path for path in (WEB / "src").rglob("*") if path.is_file()])


def digest(paths: Iterable[Path]) -> str:
    """Return one checksum over names and contents of files."""
    whole = hashlib.sha256()
    for path in paths:
        whole.update(str(path.relative_to(WEB)).encode())
        whole.update(path.read_bytes())
    return whole.hexdigest()


def _stamped(stamp: Path, wanted: str) -> bool:
    return stamp.is_file() and stamp.read_text() == wanted


def _npm(*words: str) -> None:
    done = subprocess.run(["npm", *words], cwd=WEB, capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise LaunchError(f"npm {' '.join(words)} failed:\n{done.stdout[-3000:]}{done.stderr[-3000:]}")
