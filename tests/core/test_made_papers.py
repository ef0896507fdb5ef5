"""Made papers: the makers are what they promise to be, and what is sure on papers that nothing was fitted on is right."""

from collections import Counter
from collections.abc import Callable, Iterator

import pytest
from bench.papers.calibrating import maker as calibrating
from bench.papers.fitting import maker as fitting
from bench.papers.judge import is_sure, outcomes_of
from bench.papers.judging import maker as judging
from bench.papers.made import Made
from bench.papers.noise import recognised

from waka.core.facts.kinds import INNER
from waka.core.facts.model.reading import FIELDS, fitted

Papers = Callable[[int, int, int], Iterator[Made]]
MAKERS: dict[str, Papers] = {"fitting": fitting.papers, "calibrating": calibrating.papers, "judging": judging.papers}


@pytest.mark.parametrize("maker", sorted(MAKERS))
def test_a_maker_makes_the_same_papers_each_time_and_all_words_are_on_the_page(maker: str) -> None:
    once, again = list(MAKERS[maker](60, 2, 3)), list(MAKERS[maker](60, 2, 3))
    assert once == again
    assert len({m.kind for m in once}) >= 10
    for made in once:
        assert made.kind in INNER
        assert set(made.truth) <= set(FIELDS)
        assert all(0 <= w.box.left < w.box.right <= 1 and 0 <= w.box.top < w.box.bottom <= 1 for w in made.words)


@pytest.mark.parametrize("scanned", [False, True], ids=["text", "recognised"])
def test_what_is_sure_on_the_last_makers_papers_is_right(scanned: bool) -> None:
    sure: Counter[bool] = Counter()
    exist = found = 0
    for number, made in enumerate(judging.papers(120, 1, 11)):
        paper = recognised(made, number) if scanned else made
        for one in outcomes_of(number, paper, fitted(), scanned=scanned):
            exist += one.exists
            found += one.right
            if is_sure(one, scanned=scanned):
                sure[one.right] += 1
    assert found / exist > (0.8 if scanned else 0.93)
    assert sure[True] / exist > (0.3 if scanned else 0.6)
    assert sure[False] <= 0.015 * (sure[True] + sure[False])
