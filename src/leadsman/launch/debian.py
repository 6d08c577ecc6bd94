"""Programs that come from Debian's packages: installed when root, otherwise named in one command."""

import os
import shutil
import subprocess
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from leadsman.launch import LaunchError, step

POSTGRES_HOME = Path("/usr/lib/postgresql")
NO_MAIN_CLUSTER = Path("/etc/postgresql-common/createcluster.d/no-main.conf")


@dataclass(frozen=True)
class Program:
    """A program we need: a way to find it, and the packages that bring it."""

    name: str
    packages: tuple[str, ...]

    def is_there(self) -> bool:
        """Whether the machine has it."""
        return bool(postgres_folder()) if self.name == "postgres" else shutil.which(self.name) is not None


POSTGRES = Program("postgres", ("postgresql",))
CHROMIUM = Program("chromium", ("chromium",))
CHROMEDRIVER = Program("chromedriver", ("chromium-driver",))
NODE = Program("node", ("nodejs",))
NPM = Program("npm", ("npm",))
OLDEST_NODE = 20


def postgres_folder(version: str | None = None) -> Path | None:
    """Return the folder of a PostgreSQL's programs, of the newest that is installed where none is named, or None."""
    found = [path for path in POSTGRES_HOME.glob("*/bin") if (path / "initdb").exists()]
    wanted = [path for path in found if version is None or path.parent.name == version]
    return max(wanted, key=lambda path: int(path.parent.name), default=None)


def require(programs: Iterable[Program]) -> None:
    """Install the packages of the programs that are missing.

    Raises:
        LaunchError: they cannot be installed from here; names the one command to run.
    """
    missing = [package for program in programs if not program.is_there() for package in program.packages]
    if not missing:
        return
    command = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        raise LaunchError(f"Missing on this machine. Run:  sudo apt-get update && sudo {' '.join(command)}")
    step(f"installing from Debian: {', '.join(missing)} (a minute or two)")
    if "postgresql" in missing and not NO_MAIN_CLUSTER.exists():  # we make our own cluster
        NO_MAIN_CLUSTER.parent.mkdir(parents=True, exist_ok=True)
        NO_MAIN_CLUSTER.write_text("create_main_cluster = false\n")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for words in (["apt-get", "update", "-qq"], [*command, "-qq"]):
        if subprocess.run(words, env=environment, stdout=subprocess.DEVNULL, check=False).returncode != 0:
            raise LaunchError(f"Debian's installer failed. Try by hand:  {' '.join(words)}")


def require_node() -> None:
    """Require Node 20 or newer with npm.

    Raises:
        LaunchError: it is missing or too old.
    """
    require((NODE, NPM))
    version = subprocess.run(["node", "--version"], capture_output=True, text=True, check=True).stdout.strip()
    if int(version.removeprefix("v").split(".")[0]) < OLDEST_NODE:
        raise LaunchError(f"Node {OLDEST_NODE} or newer is needed to build the front end; this is {version}.")
