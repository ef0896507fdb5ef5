"""Pictures of pages, made once and kept beside the content; they can always be made again.

Beside them stand the scans (``<page>.png``) of pages that wait to be recognised.
"""

import uuid
from pathlib import Path


class Pictures:
    """A folder of page pictures: ``ab/<sha256>/<page>.webp``."""

    def __init__(self, root: Path) -> None:
        self.root = root
        root.mkdir(parents=True, exist_ok=True)

    def path(self, sha256: bytes, page: int) -> Path:
        """Where the picture of a page (from 1) stands, or would."""
        name = sha256.hex()
        return self.root / name[:2] / name / f"{page}.webp"

    def scans(self, sha256: bytes) -> Path:
        """The folder for scans of pages that wait to be recognised; it need not be there."""
        return self.path(sha256, 1).parent

    def scan(self, sha256: bytes, page: int) -> Path:
        """Where the scan of a page stands until the page is recognised."""
        return self.scans(sha256) / f"{page}.png"

    def put(self, sha256: bytes, page: int, picture: bytes) -> Path:
        """Keep a picture; whole or not at all."""
        target = self.path(sha256, page)
        target.parent.mkdir(parents=True, exist_ok=True)
        beside = target.with_name(f".{uuid.uuid4().hex}")
        beside.write_bytes(picture)
        beside.replace(target)
        return target
