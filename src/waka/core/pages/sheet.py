"""A sheet of paper in a photo: where its corners lie, and how what is between them is drawn flat."""

from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import ndimage, spatial

from waka.core.pages.corners import Corners

Grey = npt.NDArray[np.uint8]
#: What is about as bright as the sheet around it stands out from a table by at least so many of 255 steps of grey.
_CONTRAST = 40.0
_SMALLEST, _LARGEST = 0.15, 0.985
#: Corners so near to the picture's own are those of a page that fills it.
_AT_EDGE = 0.015
_SHARPEST, _BLUNTEST = 55.0, 125.0


def find_sheet(grey: Grey) -> Corners | None:
    """The corners of the one bright sheet on something darker; None where there is none, or it fills the picture.

    ``grey``: a small picture (some hundred points wide). A sheet may run out of the picture on one side.
    """
    height, width = grey.shape
    soft = ndimage.gaussian_filter(grey.astype(np.float32), max(width, height) / 300)
    bright = ndimage.binary_opening(soft > _threshold(soft), iterations=2)
    labels, count = ndimage.label(bright)
    if not count:
        return None
    sizes = np.bincount(labels.ravel())[1:]
    mask = ndimage.binary_fill_holes(labels == int(sizes.argmax()) + 1)
    if mask is None or not _SMALLEST <= mask.mean() <= _LARGEST:
        return None
    if float(soft[mask].mean() - soft[~mask].mean()) < _CONTRAST:
        return None
    quad = _quad(mask)
    if quad is None:
        return None
    scale = np.array([width - 1, height - 1], dtype=np.float64)
    points = np.clip(quad / scale, 0.0, 1.0)
    if not _is_sheet(quad, points, mask):
        return None
    first = int((points.sum(axis=1)).argmin())
    corners = [(round(float(x), 4), round(float(y), 4)) for x, y in np.roll(points, -first, axis=0)]
    return (corners[0], corners[1], corners[2], corners[3])


def _threshold(soft: npt.NDArray[np.float32]) -> float:
    """The grey that parts dark from bright best (N. Otsu, 1979)."""
    counts, edges = np.histogram(soft, bins=128)
    weights = counts / counts.sum()
    middles = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(weights)
    sums = np.cumsum(weights * middles)
    with np.errstate(divide="ignore", invalid="ignore"):
        between = (sums[-1] * below - sums) ** 2 / (below * (1 - below))
    return float(middles[int(np.nanargmax(np.where(np.isfinite(between), between, -1.0)))])


def _quad(mask: npt.NDArray[np.bool_]) -> npt.NDArray[np.float64] | None:
    """Four corners of a region, clockwise: its hull without the corners that matter least, each side fitted to the rim."""
    rim = np.argwhere(mask & ~ndimage.binary_erosion(mask, border_value=0))[:, ::-1].astype(np.float64)
    try:
        hull = rim[spatial.ConvexHull(rim).vertices]
    except spatial.QhullError:
        return None
    points = hull
    while len(points) > 4:
        before, after = np.roll(points, 1, axis=0), np.roll(points, -1, axis=0)
        one, two = points - before, after - before
        lost = np.abs(one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0])
        points = np.delete(points, int(lost.argmin()), axis=0)
    if len(points) < 4:
        return None
    if _turns(points).sum() < 0:
        points = points[::-1]
    return _fitted(points, rim)


def _fitted(points: npt.NDArray[np.float64], rim: npt.NDArray[np.float64]) -> npt.NDArray[np.float64] | None:
    """The corners again, as the crossings of lines through the middles of the sides."""
    lines = []
    for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
        along = (b - a) / max(float(np.hypot(*(b - a))), 1.0)
        at = (rim - a) @ along / max(float(np.hypot(*(b - a))), 1.0)
        off = np.abs((rim - a) @ np.array([-along[1], along[0]]))
        near = rim[(at > 0.1) & (at < 0.9) & (off < 0.03 * float(np.hypot(*(b - a))) + 2)]
        if len(near) < 8:
            return None
        middle = near.mean(axis=0)
        direction = np.linalg.svd(near - middle, full_matrices=False)[2][0]
        if float(np.abs((near - middle) @ np.array([-direction[1], direction[0]])).mean()) > 1.5:
            return None  # no edge of a sheet is that wavy
        lines.append((middle, direction))
    corners = []
    for (p, d), (q, e) in zip(np.roll(np.array(lines), 1, axis=0), lines, strict=True):
        cross = d[0] * e[1] - d[1] * e[0]
        if abs(cross) < 0.2:
            return None
        t = ((q[0] - p[0]) * e[1] - (q[1] - p[1]) * e[0]) / cross
        corners.append(p + t * d)
    return np.array(corners)


def _is_sheet(quad: npt.NDArray[np.float64], points: npt.NDArray[np.float64], mask: npt.NDArray[np.bool_]) -> bool:
    if _turns(quad).min() <= 0 or abs(_area(quad) / float(mask.sum()) - 1) > 0.06:
        return False
    before, after = np.roll(quad, 1, axis=0) - quad, np.roll(quad, -1, axis=0) - quad
    cosines = (before * after).sum(axis=1) / (np.hypot(*before.T) * np.hypot(*after.T))
    angles = np.degrees(np.arccos(np.clip(cosines, -1, 1)))
    if angles.min() < _SHARPEST or angles.max() > _BLUNTEST:
        return False
    # a sky runs out of the picture on three sides; a page that fills it, on all
    edges = [
        (points[:, 0] < _AT_EDGE),
        (points[:, 0] > 1 - _AT_EDGE),
        (points[:, 1] < _AT_EDGE),
        (points[:, 1] > 1 - _AT_EDGE),
    ]
    return sum(int(edge.sum() >= 2) for edge in edges) <= 1


def _turns(points: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """At each corner, how far the way round turns to the right (y goes down)."""
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turns: npt.NDArray[np.float64] = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    return turns


def _area(points: npt.NDArray[np.float64]) -> float:
    x, y = points.T
    return float(abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2)


def flat_size(corners: Corners, width: int, height: int) -> tuple[int, int]:
    """How wide and high (in points of the picture) the sheet is when it is drawn flat: the longer of opposite sides."""
    points = np.array(corners) * np.array([width, height])
    sides = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    return max(round(max(sides[0], sides[2])), 8), max(round(max(sides[1], sides[3])), 8)


def flattening(corners: Corners, width: int, height: int, to: tuple[int, int]) -> tuple[float, ...]:
    """The eight numbers a…h of the projection that takes each point (x, y) of the flat sheet to the picture:
    ((ax + by + c) / (gx + hy + 1), (dx + ey + f) / (gx + hy + 1)).
    """
    across, down = to
    flat = ((0.0, 0.0), (across, 0.0), (across, down), (0.0, down))
    rows: list[list[float]] = []
    wanted: list[float] = []
    for (x, y), (u, v) in zip(flat, ((cx * width, cy * height) for cx, cy in corners), strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        wanted += [u, v]
    solved: Any = np.linalg.solve(np.array(rows, dtype=np.float64), np.array(wanted))
    return tuple(float(n) for n in solved)
