"""Pictures of paper: photos and scans opened frame by frame, drawn flat, straightened, made ready for recognising."""

import struct
from typing import cast

import numpy as np
from PIL import Image, ImageFilter, ImageOps, ImageSequence, UnidentifiedImageError

from waka.core.pages.corners import Corners
from waka.core.pages.sheet import find_sheet, flat_size, flattening
from waka.readers.outcome import MAX_SCANNED, Unreadable
from waka.readers.paged import Opened, WordRow, clean
from waka.words.readings import remark

#: A4 at 300 dpi is 8.7 million points; phones take 50 million. More is no page.
_MAX_POINTS = 120_000_000
_LONG_SIDE = 3508
#: Formats whose frames are pages; elsewhere they are moments.
_OF_PAGES = ("TIFF",)
#: The largest skew, in degrees, that counts as a crooked sheet.
_MAX_SKEW = 6.0


def open_image(path: str) -> Opened:
    """A TIFF, JPEG, PNG, GIF, WebP or HEIC; one page a frame. Unreadable for a damaged or an endless one."""
    sheets: dict[int, Corners] = {}
    frames = []
    try:
        image = _opened(path)
        properties = _taken(image)
        for number, frame in enumerate(_first(image), 1):
            upright = _upright(frame)
            corners = sheet_in(upright)
            if corners is not None:
                sheets[number] = corners
            frames.append(_small(straightened(flat(upright, corners) if corners else upright)))
    except Image.DecompressionBombError as error:
        raise Unreadable("picture too large") from error
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError) as error:
        raise Unreadable("picture damaged", error=clean(str(error), 80)) from error
    more = getattr(image, "n_frames", 1) - len(frames)
    notes = [remark("pages left out", pages=more + len(frames), shown=len(frames))] if more > 0 else []
    if sheets:
        notes.append(remark("cut out"))
    return Opened(ImagePages(frames), properties, notes=notes, sheets=sheets)


def open_frame(path: str, number: int) -> Image.Image:
    """One page of a picture as it came, upright but not cut or straightened; Unreadable where there is none."""
    return _small(_frame(path, number))


def _frame(path: str, number: int) -> Image.Image:
    try:
        image = _opened(path)
        if number > 1 and image.format not in _OF_PAGES:
            raise EOFError
        image.seek(number - 1)
        return _upright(image.copy())
    except (UnidentifiedImageError, Image.DecompressionBombError, OSError, SyntaxError, ValueError, EOFError) as error:
        raise Unreadable("no picture page", page=number) from error


def cut_frame(path: str, number: int, corners: Corners | None) -> Image.Image:
    """One page of a picture, cut out by ``corners``, or (None) as it is shown: by the sheet that is found, straightened."""
    frame = _frame(path, number)
    if corners is not None:
        return _small(flat(frame, corners))
    found = sheet_in(frame)
    return _small(straightened(flat(frame, found) if found else frame))


def _opened(path: str) -> Image.Image:
    import pillow_heif

    pillow_heif.register_heif_opener()
    Image.MAX_IMAGE_PIXELS = _MAX_POINTS
    image = Image.open(path)
    if image.width * image.height > _MAX_POINTS:  # up to twice as many, Pillow only warns
        raise Image.DecompressionBombError
    return image


def _first(image: Image.Image) -> list[Image.Image]:
    frames = []
    for n, frame in enumerate(ImageSequence.Iterator(image)):
        if n >= MAX_SCANNED or (n and image.format not in _OF_PAGES):
            break
        frames.append(frame.copy())
    return frames


def _taken(image: Image.Image) -> dict[str, str]:
    """When it was taken, where the camera said so in a form that can be read."""
    try:
        return {"taken": clean(str(taken))} if (taken := image.getexif().get(306)) else {}
    except (struct.error, ValueError, TypeError, SyntaxError):
        return {}  # what is beside the picture may be broken, and the picture whole


def _upright(image: Image.Image) -> Image.Image:
    """As it was held, in grey or colour, and no larger than two sheets need."""
    try:
        turned = ImageOps.exif_transpose(image) or image
    except (struct.error, TypeError):
        turned = image
    if turned.mode not in ("L", "RGB"):
        turned = turned.convert("L" if turned.mode in ("1", "I;16", "LA") else "RGB")
    if max(turned.size) > 2 * _LONG_SIDE:
        turned.thumbnail((2 * _LONG_SIDE, 2 * _LONG_SIDE))
    return turned


def _small(image: Image.Image) -> Image.Image:
    if max(image.size) > _LONG_SIDE:
        image.thumbnail((_LONG_SIDE, _LONG_SIDE))
    return image


def sheet_in(image: Image.Image) -> Corners | None:
    """The corners of the sheet that a photo shows; None where the whole picture is the page."""
    small = image.convert("L")
    small.thumbnail((480, 480))
    return find_sheet(np.asarray(small))


def flat(image: Image.Image, corners: Corners) -> Image.Image:
    """What lies between the corners of a sheet, as if seen from straight above."""
    size = flat_size(corners, image.width, image.height)
    numbers = flattening(corners, image.width, image.height, size)
    return image.transform(size, Image.Transform.PERSPECTIVE, numbers, Image.Resampling.BICUBIC)


class ImagePages:
    """Frames as pages (see paged.Paged)."""

    def __init__(self, frames: list[Image.Image]) -> None:
        self._frames = frames

    def sizes(self) -> list[tuple[float, float]]:
        """In points, as if the longer side were that of A4."""
        return [(f.width * 841.9 / max(f.size), f.height * 841.9 / max(f.size)) for f in self._frames]

    def words(self, _number: int) -> list[WordRow] | None:
        """None: they have to be recognised."""
        return None

    def picture(self, number: int) -> Image.Image:
        """The frame, straightened."""
        return self._frames[number - 1]

    def scan(self, number: int) -> Image.Image:
        """The frame in grey on white paper, no smaller than letters need."""
        grey = cleaned(self._frames[number - 1].convert("L"))
        if max(grey.size) < 2000:
            scale = 2000 / max(grey.size)
            grey = grey.resize((round(grey.width * scale), round(grey.height * scale)), Image.Resampling.LANCZOS)
        return grey


def skew(image: Image.Image) -> float:
    """By how many degrees the lines of a page lean (counter-clockwise is positive), told by the sharpness of its rows' sums."""
    small = ImageOps.autocontrast(image.convert("L"))
    small.thumbnail((700, 700))
    ink = small.point(lambda v: 255 if v < 140 else 0)
    if not 0.002 < np.asarray(ink, dtype=np.float32).mean() / 255 < 0.5:
        return 0.0

    def sharpness(angle: float) -> float:
        rows = np.asarray(ink.rotate(-angle, fillcolor=0), dtype=np.float32).sum(axis=1)
        return float(np.square(np.diff(rows)).sum())

    level = sharpness(0.0)
    coarse = max(np.arange(-_MAX_SKEW, _MAX_SKEW + 0.1, 0.5), key=lambda a: sharpness(float(a)))
    best = max(np.arange(coarse - 0.4, coarse + 0.41, 0.1), key=lambda a: sharpness(float(a)))
    return float(best) if sharpness(float(best)) > 1.08 * level else 0.0


def straightened(image: Image.Image) -> Image.Image:
    """The page turned upright by its skew; the same picture where it is straight."""
    lean = skew(image)
    if abs(lean) < 0.15:
        return image
    # the corners that come into view are like the paper
    paper = image.resize((32, 32)).getpixel((16, 30))
    fill = cast(tuple[int, ...] | float, paper)
    return image.rotate(-lean, resample=Image.Resampling.BICUBIC, fillcolor=fill)


def cleaned(grey: Image.Image) -> Image.Image:
    """A page without specks, its paper white: what is about as light as the paper around it is paper."""
    calm = grey.filter(ImageFilter.MedianFilter(3))
    small = calm.resize((max(calm.width // 16, 1), max(calm.height // 16, 1)))
    paper = small.filter(ImageFilter.MaxFilter(5)).filter(ImageFilter.GaussianBlur(4)).resize(calm.size)
    flat = np.asarray(calm, dtype=np.float32) / np.maximum(np.asarray(paper, dtype=np.float32), 60.0) * 255
    flat[flat > 200] = 255
    return Image.fromarray(flat.clip(0, 255).astype(np.uint8))


def is_blank(image: Image.Image) -> bool:
    """Whether nothing stands on a page: hardly any ink away from its edges."""
    small = image.convert("L").resize((400, 560)).crop((20, 28, 380, 532))
    return bool((np.asarray(small) < 190).mean() < 0.0003)
