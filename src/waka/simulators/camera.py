"""A phone's camera that is not there: takes a sheet as it lies on a bench, aslant, in uneven light."""

import io
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageChops

from waka.core.pages.corners import Corners
from waka.core.pages.sheet import flattening

_SIZE = (1500, 2000)


@dataclass(frozen=True)
class View:
    """Where the sheet's corners lie in the photo, how bright the bench is (0 to 255), how uneven the light is (0 to 1)."""

    corners: Corners = ((0.14, 0.10), (0.88, 0.15), (0.93, 0.90), (0.07, 0.86))
    bench: int = 72
    shade: float = 0.15
    seed: int = 1


def photograph(sheet: Image.Image, view: View = View(), *, form: str = "JPEG") -> bytes:
    """A photo (JPEG, PNG or HEIF) of a sheet; ``sheet`` is what a page shows, as a picture."""
    noise = np.random.default_rng(view.seed)
    width, height = _SIZE
    grain = noise.normal(view.bench, 9, (height // 8, 24)).clip(0, 255).astype(np.uint8)
    scene = Image.fromarray(grain).resize(_SIZE).convert("RGB")
    a, b, c, d, e, f, g, h = flattening(view.corners, width, height, sheet.size)
    back = np.linalg.inv(np.array([[a, b, c], [d, e, f], [g, h, 1.0]]))
    numbers = tuple(float(n) for n in (back / back[2, 2]).ravel()[:8])
    seen = sheet.convert("RGB").transform(_SIZE, Image.Transform.PERSPECTIVE, numbers, Image.Resampling.BICUBIC)
    mask = Image.new("L", sheet.size, 255).transform(_SIZE, Image.Transform.PERSPECTIVE, numbers)
    scene.paste(seen, (0, 0), mask)
    light = np.linspace(255, 255 * (1 - view.shade), width).astype(np.uint8)
    shade = Image.fromarray(np.broadcast_to(light, (height, width))).convert("RGB")
    held = io.BytesIO()
    ImageChops.multiply(scene, shade).save(held, form, quality=88)
    return held.getvalue()
