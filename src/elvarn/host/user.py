"""Who Elvarn runs as: whoever starts it; where that is root, a system user of its own, who owns the data folder."""

import ctypes
import os
import pwd
import shutil
import subprocess
from pathlib import Path

SYSTEM_USER = "elvarn"
NOBODY_ELSE = 0o077
SET_DUMPABLE = 4  # prctl: a process that changed its user may look at itself again
FOR_ROOT = Path("/var/lib/elvarn")


class UserError(RuntimeError):
    """Elvarn can't run as it should; the message says why and what to do."""


def default_data_folder(root: Path) -> Path:
    """`data` in the project; where root's own users can't enter that, a folder under /var/lib."""
    inside = root / "data"
    if os.geteuid() != 0 or inside.exists():
        return inside
    return inside if may_enter("nobody", root) else FOR_ROOT


def step_down(root: Path, data: Path) -> None:
    """Give the data folder to Elvarn's own user and become that user, for good. Raises UserError."""
    user = _own_user()
    if not may_enter(SYSTEM_USER, root / "src"):
        raise UserError(
            f"Root starts Elvarn as its own user {SYSTEM_USER}, who can't read {root}. Two ways on: move Elvarn to "
            f"where everybody may read, for example /opt; or let it run as root: ./elvarn start --as-root"
        )
    give(data, user.pw_uid, user.pw_gid)
    if not may_enter(SYSTEM_USER, data):
        raise UserError(
            f"Root starts Elvarn as its own user {SYSTEM_USER}, who can't enter {data}. "
            f"Choose another folder with --data, for example --data {FOR_ROOT}."
        )
    os.setgroups([])
    os.setgid(user.pw_gid)
    os.setuid(user.pw_uid)
    ctypes.CDLL(None).prctl(SET_DUMPABLE, 1)
    os.environ |= {"HOME": str(data), "USER": SYSTEM_USER, "LOGNAME": SYSTEM_USER}


def close_to_others(data: Path) -> None:
    """A data folder and all in it is its owner's alone, and so is whatever is written from now on."""
    os.umask(NOBODY_ELSE)
    wanted = 0o711 if os.geteuid() == 0 else 0o700  # root's database passes through as somebody else
    if data.stat().st_mode & 0o777 != wanted:
        for path in data.rglob("*"):
            if path.is_relative_to(data / "postgres") or path.is_symlink():
                continue
            path.chmod(0o700 if path.is_dir() else 0o600)
        data.chmod(wanted)


def claim(data: Path) -> None:
    """Make a data folder, or see that it is one. Raises UserError: nothing else's files are given to anybody."""
    try:
        data.mkdir(parents=True, exist_ok=True)
        kept = {path.name for path in data.iterdir()}
    except OSError as error:
        raise UserError(f"The data folder {data} can't be used: {error.strerror}.") from error
    if kept and not kept & {"postgres", "lock", "files", "copies"}:
        named = ", ".join(sorted(kept)[:3])
        raise UserError(f"{data} is no data folder of Elvarn; it holds {named}. Choose another one, or a new one.")


def give(data: Path, uid: int, gid: int) -> None:
    """Give a data folder and all in it to a user; nothing is done where it is that user's."""
    paths = [data, *data.iterdir()]
    if all(path.lstat().st_uid == uid for path in paths):
        return
    for path in (data, *data.rglob("*")):
        os.chown(path, uid, gid, follow_symlinks=False)


def may_enter(user: str, folder: Path) -> bool:
    """Whether a user may read and enter a folder."""
    known = pwd.getpwnam(user)
    tried = subprocess.run(
        ["test", "-r", str(folder), "-a", "-x", str(folder)],
        check=False, user=known.pw_uid, group=known.pw_gid, extra_groups=[],
    )  # fmt: skip
    return tried.returncode == 0


def _own_user() -> pwd.struct_passwd:
    try:
        return pwd.getpwnam(SYSTEM_USER)
    except KeyError:
        tool = shutil.which("useradd", path="/usr/sbin:/sbin:/usr/bin")
        if tool is None:
            raise UserError("There is no useradd to make Elvarn a user with: apt-get install passwd") from None
        options = ["--system", "--user-group", "--no-create-home", "--shell", "/usr/sbin/nologin"]
        subprocess.run([tool, *options, SYSTEM_USER], check=True)
        return pwd.getpwnam(SYSTEM_USER)
