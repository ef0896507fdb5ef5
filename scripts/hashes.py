"""Adds to each line ``name==version`` of a lock the SHA-256 of every file of that release, as the package index lists them (PEP 691).

``python scripts/hashes.py <lock >lock-with-hashes``: the index is the one that pip uses here. A release without a file that has a
hash is an error.
"""

import json
import re
import sys
import urllib.request

from pip._internal.models.index import PyPI
from pip._vendor.packaging.utils import (
    InvalidSdistFilename,
    InvalidWheelFilename,
    parse_sdist_filename,
    parse_wheel_filename,
)
from pip._vendor.packaging.version import InvalidVersion, Version


def hashes(name: str, version: str) -> list[str]:
    """The hashes of all files of a release, in order."""
    page = f"{PyPI.simple_url}/{re.sub(r'[-_.]+', '-', name).lower()}/"
    asked = urllib.request.Request(page, headers={"Accept": "application/vnd.pypi.simple.v1+json"})  # noqa: S310 - pip's own
    with urllib.request.urlopen(asked, timeout=60) as answer:  # noqa: S310
        files = json.load(answer)["files"]
    found = {file["hashes"]["sha256"] for file in files if _version_of(file["filename"]) == Version(version)}
    if not found:
        raise SystemExit(f"{name} {version}: the index lists no file with a hash")
    return sorted(found)


def _version_of(filename: str) -> Version | None:
    try:
        parse = parse_wheel_filename if filename.endswith(".whl") else parse_sdist_filename
        return parse(filename)[1]
    except (InvalidWheelFilename, InvalidSdistFilename, InvalidVersion):
        return None


for line in sys.stdin:
    name, _, version = line.strip().partition("==")
    print(" \\\n    ".join([f"{name}=={version}", *(f"--hash=sha256:{one}" for one in hashes(name, version))]))
