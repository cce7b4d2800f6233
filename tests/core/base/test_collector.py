import gc

import pytest

from young_fabric.core.base.collector import SELDOM, seldom_collected, uncollected


def test_a_process_that_has_begun_is_looked_through_seldom() -> None:
    gc.set_threshold(700, 10, 10)
    seldom_collected()
    assert gc.get_threshold() == SELDOM
    assert gc.get_freeze_count() > 1_000


def test_the_collector_pauses_and_goes_on_whatever_happens() -> None:
    during = []

    def breaks() -> None:
        with uncollected():
            during.append(gc.isenabled())
            raise KeyError

    with pytest.raises(KeyError):
        breaks()
    assert during == [False]
    assert gc.isenabled()
