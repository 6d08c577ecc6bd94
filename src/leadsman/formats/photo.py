"""Photos from the field: drawn anew at a size that a page needs, so that nothing else of the file is kept."""

import io
from base64 import b64encode

from PIL import ExifTags, Image, ImageOps
from pydantic import Base64Bytes, BaseModel, ConfigDict

from leadsman.core.base.fault import DesignFaults
from leadsman.core.survey.survey_file import refuse
from leadsman.formats.limits import LARGEST_FILE_BYTES

KINDS = ("JPEG", "PNG", "WEBP")
MOST_PIXELS = 120_000_000
LONGEST_PX, SMALL_PX = 1_600, 320
QUALITY = 82
Image.MAX_IMAGE_PIXELS = None  # ours is looked at before anything is drawn
ALLOWED = f"a JPEG, PNG or WebP of at most {LARGEST_FILE_BYTES:,} bytes and {MOST_PIXELS // 1_000_000} million pixels"


class PhotoAsked(BaseModel):
    """Whether the place at which a photo was taken is wanted."""

    model_config = ConfigDict(extra="forbid")

    keep_place: bool = False


class PhotoRead(BaseModel):
    """A photo as it is kept: two JPEGs without any other data, and where it was taken, if wanted and known [°]."""

    data: Base64Bytes
    small: Base64Bytes
    latitude_deg: float | None
    longitude_deg: float | None


def read_photo(data: bytes, asked: PhotoAsked) -> PhotoRead:
    """Return a photo drawn anew, upright, its longer side at most 1,600 pixels, and a small one of 320.

    Raises:
        DesignFaults: it is no picture of a kind that is taken, damaged, or too large.
    """
    if len(data) > LARGEST_FILE_BYTES:
        raise refuse("/file", "too_large", f"{len(data):,} bytes", ALLOWED)
    try:
        with Image.open(io.BytesIO(data), formats=KINDS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise refuse("/file", "too_large", f"{opened.width:,} × {opened.height:,} pixels", ALLOWED)
            place = _place(opened) if asked.keep_place else None
            opened.draft("RGB", (LONGEST_PX, LONGEST_PX))
            upright = _plain(ImageOps.exif_transpose(opened))
    except DesignFaults:
        raise
    except (OSError, SyntaxError, ValueError, EOFError) as error:
        raise refuse("/file", "not_a_photo", str(error)[:120] or type(error).__name__, ALLOWED) from None
    latitude, longitude = place or (None, None)
    return PhotoRead(
        data=b64encode(_jpeg(upright, LONGEST_PX)), small=b64encode(_jpeg(upright, SMALL_PX)),
        latitude_deg=latitude, longitude_deg=longitude,
    )  # fmt: skip


def is_plain(data: bytes) -> bool:
    """Whether a photo is as this module draws them: a JPEG of the size that is kept, without data of a camera."""
    with Image.open(io.BytesIO(data), formats=KINDS) as opened:
        small = max(opened.size) <= LONGEST_PX and opened.format == "JPEG"
        return small and not opened.getexif() and not ({"exif", "xmp", "comment", "icc_profile"} & opened.info.keys())


def _plain(image: Image.Image) -> Image.Image:
    """Return an image in three colours; what is seen through is white."""
    if "A" not in image.getbands() and "transparency" not in image.info:
        return image.convert("RGB")
    shown = image.convert("RGBA")
    white = Image.new("RGBA", shown.size, "white")
    return Image.alpha_composite(white, shown).convert("RGB")


def _jpeg(image: Image.Image, longest_px: int) -> bytes:
    written, drawn = io.BytesIO(), image.copy()
    drawn.thumbnail((longest_px, longest_px))
    drawn.info.clear()
    drawn.save(written, "JPEG", quality=QUALITY, optimize=True)
    return written.getvalue()


def _place(image: Image.Image) -> tuple[float, float] | None:
    """Return latitude and longitude [°] of what a camera wrote into its file; None where it wrote none that can be."""
    written = image.getexif().get_ifd(ExifTags.IFD.GPSInfo)
    tags = ExifTags.GPS
    try:
        latitude = _degrees(written[tags.GPSLatitude], written[tags.GPSLatitudeRef] == "S")
        longitude = _degrees(written[tags.GPSLongitude], written[tags.GPSLongitudeRef] == "W")
    except (KeyError, TypeError, ValueError, ZeroDivisionError):
        return None
    return (latitude, longitude) if abs(latitude) <= 90 and abs(longitude) <= 180 else None


def _degrees(parts: tuple[float, float, float], negative: bool) -> float:
    degrees, minutes, seconds = (float(part) for part in parts)
    whole = degrees + minutes / 60 + seconds / 3600
    return -whole if negative else whole
