"""Videos elsewhere: what is read of links and embed code, and how each plays."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.links import LONGEST_WORDS
from young_fabric.core.kinds.videos import LONGEST_CODE, plays

VIDEO, SPEC = KINDS["video"], Spec()
HOST = "https://videos.example"


@pytest.mark.parametrize(
    ("typed", "words", "address"),
    [
        (f"{HOST}/w/wash", "videos.example", f"{HOST}/w/wash"),
        ("http://videos.example/w/wash", "videos.example", f"{HOST}/w/wash"),
        (f"A wash <{HOST}/w/wash>", "A wash", f"{HOST}/w/wash"),
        (f'<iframe width="560" src="{HOST}/embed/1?a=b&amp;c=d" title=" A  wash "></iframe>', "A wash", f"{HOST}/embed/1?a=b&c=d"),
        ('My words <IFRAME SRC="//videos.example/embed/1"></IFRAME>', "My words", f"{HOST}/embed/1"),
        (f'<video controls><source src="{HOST}/wash.mp4"></video>', "videos.example", f"{HOST}/wash.mp4"),
        (f'<blockquote><a href="{HOST}/p/1">A wash</a></blockquote><script src="https://x.example/e.js"></script>', "videos.example", f"{HOST}/p/1"),
    ],
)  # fmt: skip
def test_of_what_is_pasted_words_and_address_are_kept(typed: str, words: str, address: str) -> None:
    value = VIDEO.read(typed, SPEC)
    assert value == {"words": words, "address": address}
    assert VIDEO.well_formed(value)
    assert VIDEO.read(str(VIDEO.typed(value, SPEC)), SPEC) == value


@pytest.mark.parametrize(
    "typed",
    [
        "<iframe></iframe>",
        '<iframe src="javascript:alert(1)"></iframe>',
        '<iframe src="data:text/html,x"></iframe>',
        '<script>alert("x")</script>',
        "mailto:ask@saltmarsh.example",
        "tel:+4940123",
        "<div>nothing here</div>",
        "a wash",
    ],
)
def test_what_holds_no_video_is_refused(typed: str) -> None:
    with pytest.raises(Refusal) as caught:
        VIDEO.read(typed, SPEC)
    assert caught.value.code == "link"
    assert caught.value.help


def test_code_and_words_have_lengths_that_are_held() -> None:
    code = f'<iframe src="{HOST}/embed/1"></iframe>'
    assert VIDEO.read(code.ljust(LONGEST_CODE), SPEC)["address"] == f"{HOST}/embed/1"
    with pytest.raises(Refusal) as caught:
        VIDEO.read(code.ljust(LONGEST_CODE + 1), SPEC)
    assert caught.value.code == "long"
    assert VIDEO.read("w" * (LONGEST_WORDS + 1) + code, SPEC)["words"] == "w" * LONGEST_WORDS


@pytest.mark.parametrize(
    ("address", "how", "source"),
    [
        ("https://www.youtube.com/watch?v=aB_c-1&t=4", "frame", "https://www.youtube-nocookie.com/embed/aB_c-1"),
        ("https://www.youtube.com/watch?v=<x>", "page", "https://www.youtube.com/watch?v=<x>"),
        ("https://youtu.be/aB_c-1?si=x", "frame", "https://www.youtube-nocookie.com/embed/aB_c-1"),
        ("https://m.youtube.com/shorts/aB_c-1", "frame", "https://www.youtube-nocookie.com/embed/aB_c-1"),
        ("https://vimeo.com/12345", "frame", "https://player.vimeo.com/video/12345"),
        ("https://player.vimeo.com/video/12345?h=1", "frame", "https://player.vimeo.com/video/12345?h=1"),
        ("https://www.dailymotion.com/video/x1", "frame", "https://www.dailymotion.com/embed/video/x1"),
        (f"{HOST}/w/wash", "frame", f"{HOST}/videos/embed/wash"),
        ("https://videos.example:8443/videos/watch/w1", "frame", "https://videos.example:8443/videos/embed/w1"),
        (f"{HOST}/embed/1", "frame", f"{HOST}/embed/1"),
        (f"{HOST}/films/wash.MP4?x=1", "file", f"{HOST}/films/wash.MP4?x=1"),
        (f"{HOST}/about", "page", f"{HOST}/about"),
        ("https://notyoutube.com/watch?v=a", "page", "https://notyoutube.com/watch?v=a"),
    ],
)
def test_how_a_video_plays(address: str, how: str, source: str) -> None:
    assert plays(address) == (how, source)


@given(st.text(alphabet="htps:/.a@[]<>%=?&wv\"' iframesrc", max_size=60))
def test_whatever_is_pasted_only_https_is_ever_played(text: str) -> None:
    try:
        value = VIDEO.read(text, SPEC)
    except Refusal:
        return
    assert VIDEO.well_formed(value)
    (shown,) = VIDEO.shower(SPEC, {})(value).videos
    assert shown[3].startswith("https://")
    assert not set(shown[3]) & set('<>" ')


def test_several_play_one_after_the_other_and_are_data_by_address() -> None:
    values = [VIDEO.read(f"{word} <{HOST}/w/{word}>", SPEC) for word in ("wet", "dry")]
    node = VIDEO.together([VIDEO.shower(SPEC, {})(value) for value in values])
    assert (node.tag, node.plain) == ("videos", "wet, dry")
    assert VIDEO.property_value(values[0], SPEC, "")["value"] == f"{HOST}/w/wet"
