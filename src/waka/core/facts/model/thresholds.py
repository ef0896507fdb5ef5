"""From which chance on a fact is sure. Written by ``bench/papers/calibrate.py``; not by hand."""

from collections.abc import Mapping

THRESHOLDS: Mapping[str, float] = {
    "amount": 0.9193,
    "amount/scan": 0.9,
    "attempt": 0.9,
    "attempt/scan": 0.9,
    "course": 0.9446,
    "course/scan": 0.9946,
    "due": 0.9,
    "due/scan": 0.9,
    "issued": 0.9,
    "issued/scan": 0.9,
    "kind": 0.9,
    "kind/scan": 0.9,
    "person": 0.9,
    "person/scan": 0.9,
    "ref": 0.9291,
    "ref/scan": 0.9692,
    "subject": 0.9,
    "subject/scan": 0.9562,
    "task": 0.9,
    "task/scan": 0.9,
}
