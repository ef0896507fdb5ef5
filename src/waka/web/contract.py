"""The API's OpenAPI document as a file: ``python -m waka.web.contract FILE``. The TypeScript client comes from it."""

import json
import sys
from pathlib import Path
from typing import cast

from waka.web.app import make_app
from waka.work.drive import Drive


def openapi_text() -> str:
    """The document as JSON text with sorted keys, so that the same API always gives the same file."""
    # describing the API needs no drive
    app = make_app(cast(Drive, None))
    document = app.test_client().get("/api/openapi.json", headers={"Host": "localhost"}).get_json()
    return json.dumps(document, indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(openapi_text(), encoding="utf-8")
