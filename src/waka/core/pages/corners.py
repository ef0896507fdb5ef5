"""The corners of a sheet in a picture, as they are said and checked."""

from itertools import pairwise

Point = tuple[float, float]
#: A sheet's corners clockwise from its top left, in fractions of the picture's width and height.
Corners = tuple[Point, Point, Point, Point]

_LEAST_AREA = 0.01


class CornersRefused(ValueError):
    """Corners that no sheet has; the text says why."""


def check_corners(corners: Corners) -> None:
    """CornersRefused unless the corners lie in the picture, go clockwise and enclose something to look at."""
    if not all(0.0 <= v <= 1.0 for point in corners for v in point):
        raise CornersRefused("A corner lies outside the picture.")
    round_ = [*corners, corners[0], corners[1]]
    # at each corner the way round turns to the right (y goes down)
    for (ax, ay), (bx, by), (cx, cy) in zip(round_, round_[1:], round_[2:], strict=False):
        if (bx - ax) * (cy - by) - (by - ay) * (cx - bx) <= 1e-4:
            raise CornersRefused(
                "The corners cross over. Top left, top right, bottom right, bottom left go round the sheet."
            )
    if sum(ax * by - bx * ay for (ax, ay), (bx, by) in pairwise(round_[:5])) / 2 < _LEAST_AREA:
        raise CornersRefused("The corners enclose hardly anything.")
