"""Photos drawn anew: upright, small enough, and without anything that the camera wrote into its file."""

import io
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import ExifTags, Image, PngImagePlugin

from leadsman.core.base.fault import DesignFaults
from leadsman.formats.limits import LARGEST_FILE_BYTES
from leadsman.formats.photo import LONGEST_PX, MOST_PIXELS, SMALL_PX, PhotoAsked, is_plain, read_photo
from photos import camera_photo

PLACE_KEPT, PLACE_LEFT_OUT = PhotoAsked(keep_place=True), PhotoAsked()


def opened(data: bytes) -> Image.Image:
    image = Image.open(io.BytesIO(data))
    image.load()
    return image


def written(image: Image.Image, kind: str, **options: Any) -> bytes:
    file = io.BytesIO()
    image.save(file, kind, **options)
    return file.getvalue()


def test_nothing_that_the_camera_wrote_is_in_what_is_kept() -> None:
    sent = camera_photo(latitude=(51.0, 30.0, 36.0), south=True)
    assert b"Maker of cameras" in sent
    read = read_photo(sent, PLACE_LEFT_OUT)
    for data in (read.data, read.small):
        image = opened(data)
        assert image.format == "JPEG"
        assert not image.getexif()
        assert b"Maker of cameras" not in data
        assert b"seen by" not in data
    assert (read.latitude_deg, read.longitude_deg) == (None, None)
    assert not is_plain(sent)
    assert is_plain(read.data)


@pytest.mark.parametrize(
    ("latitude", "south", "found"),
    [((51.0, 30.0, 36.0), True, -51.51), ((51.0, 30.0, 36.0), False, 51.51), ((0.0, 0.0, 0.0), False, 0.0)],
)
def test_where_it_was_taken_is_told_where_that_is_wanted(
    latitude: tuple[float, float, float], south: bool, found: float
) -> None:
    read = read_photo(camera_photo(latitude=latitude, south=south), PLACE_KEPT)
    assert read.latitude_deg == pytest.approx(found)
    assert read.longitude_deg == pytest.approx(-8.25)
    assert not opened(read.data).getexif()  # beside the picture, not in it


@pytest.mark.parametrize("latitude", [(91.0, 0.0, 0.0), (float("inf"), 0.0, 0.0), None])
def test_a_place_that_cannot_be_is_none(latitude: tuple[float, float, float] | None) -> None:
    read = read_photo(camera_photo(latitude=latitude), PLACE_KEPT)
    assert (read.latitude_deg, read.longitude_deg) == (None, None)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_it_stands_upright_however_the_camera_was_held(orientation: int) -> None:
    """A red corner, upper left of what was seen, is there in what is kept; stored by the standard's table of turns."""
    seen = np.zeros((60, 100, 3), np.uint8)
    seen[:20, :20, 0] = 255
    stored = {
        1: seen, 2: seen[:, ::-1], 3: seen[::-1, ::-1], 4: seen[::-1], 5: seen.transpose(1, 0, 2),
        6: np.rot90(seen, 1), 7: seen[::-1, ::-1].transpose(1, 0, 2), 8: np.rot90(seen, -1),
    }[orientation]  # fmt: skip
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = orientation
    image = opened(read_photo(written(Image.fromarray(stored), "JPEG", exif=exif, quality=95), PLACE_LEFT_OUT).data)
    assert image.size == (100, 60)
    corners = [image.getpixel(spot) for spot in ((5, 5), (95, 5), (5, 55), (95, 55))]
    assert [pixel[0] > 150 for pixel in corners if isinstance(pixel, tuple)] == [True, False, False, False]


@pytest.mark.parametrize(
    ("width", "height", "kept", "small"),
    [
        (4_000, 3_000, (LONGEST_PX, 1_200), (SMALL_PX, 240)),
        (3_000, 4_000, (1_200, LONGEST_PX), (240, SMALL_PX)),
        (300, 200, (300, 200), (300, 200)),  # never blown up
        (8_000, 8, (LONGEST_PX, 2), (SMALL_PX, 1)),
        (1, 1, (1, 1), (1, 1)),
    ],
)
def test_it_is_no_larger_than_a_page_needs(
    width: int, height: int, kept: tuple[int, int], small: tuple[int, int]
) -> None:
    read = read_photo(written(Image.new("RGB", (width, height), "green"), "JPEG"), PLACE_LEFT_OUT)
    assert (opened(read.data).size, opened(read.small).size) == (kept, small)


@pytest.mark.parametrize(
    ("kind", "mode"),
    [("JPEG", mode) for mode in ("RGB", "L", "CMYK", "1")]
    + [("PNG", mode) for mode in ("RGB", "L", "RGBA", "LA", "P", "1", "I;16")]
    + [("WEBP", mode) for mode in ("RGB", "L", "RGBA", "P")],
)
def test_every_way_of_colour_becomes_a_plain_one(kind: str, mode: str) -> None:
    image = Image.new("RGB", (40, 30), (200, 30, 30)).convert("L" if mode == "I;16" else mode)
    if mode == "I;16":
        image = Image.fromarray(np.full((30, 40), 40_000, np.uint16))
    kept = opened(read_photo(written(image, kind), PLACE_LEFT_OUT).data)
    assert (kept.mode, kept.size) == ("RGB", (40, 30))


def test_what_is_seen_through_is_white_and_of_pictures_that_move_the_first_counts() -> None:
    clear = written(Image.new("RGBA", (20, 20), (255, 0, 0, 0)), "PNG")
    assert opened(read_photo(clear, PLACE_LEFT_OUT).data).getpixel((5, 5)) == (255, 255, 255)
    frames = [Image.new("RGB", (20, 20), colour) for colour in ("black", "white")]
    moving = written(frames[0], "WEBP", save_all=True, append_images=frames[1:], lossless=True)
    assert opened(read_photo(moving, PLACE_LEFT_OUT).data).getpixel((5, 5)) == (0, 0, 0)


def _bomb() -> bytes:
    """A small file that says it is a picture of more pixels than memory holds."""
    side = int(MOST_PIXELS**0.5) + 100
    return written(Image.new("1", (side, side)), "PNG")


def _swollen_text() -> bytes:
    info = PngImagePlugin.PngInfo()
    info.add_text("a", "b" * 80_000_000, zip=True)
    return written(Image.new("RGB", (8, 8)), "PNG", pnginfo=info)


@pytest.mark.parametrize(
    ("sent", "code"),
    [
        (b"", "not_a_photo"),
        (b"no picture", "not_a_photo"),
        (b"%PDF-1.7\n", "not_a_photo"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not_a_photo"),
        (b"\xff\xd8\xff", "not_a_photo"),
        (written(Image.new("RGB", (30, 30)), "GIF"), "not_a_photo"),
        (camera_photo()[:400], "not_a_photo"),
        (camera_photo()[:-200], "not_a_photo"),
        (_bomb(), "too_large"),
        (_swollen_text(), "not_a_photo"),
        (bytes(LARGEST_FILE_BYTES + 1), "too_large"),
    ],
    ids=["nothing", "text", "pdf", "svg", "start", "gif", "cut", "end lost", "bomb", "swollen", "large"],
)
def test_what_is_no_photo_is_refused_and_it_says_what_is_allowed(sent: bytes, code: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_photo(sent, PLACE_LEFT_OUT)
    (fault,) = refused.value.faults
    assert (fault.code, fault.path) == (code, "/file")
    assert "JPEG" in fault.allowed


@pytest.mark.filterwarnings("ignore::UserWarning")  # the library's own, on what it skips in damaged files
@given(at=st.integers(2, len(camera_photo()) - 1), value=st.integers(0, 255), keep=st.booleans())
def test_a_damaged_one_is_drawn_or_refused_and_nothing_else(at: int, value: int, keep: bool) -> None:
    sent = bytearray(camera_photo(latitude=(51.0, 30.0, 36.0)))
    sent[at] = value
    told: list[str] = []
    try:
        assert is_plain(read_photo(bytes(sent), PhotoAsked(keep_place=keep)).data)
    except DesignFaults as refused:
        told = [fault.code for fault in refused.faults]
    assert set(told) <= {"not_a_photo", "too_large"}
