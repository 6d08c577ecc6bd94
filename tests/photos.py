"""A made-up photo, with what cameras write into their files."""

import io

import numpy as np
from PIL import ExifTags, Image


def camera_photo(
    latitude: tuple[float, float, float] | None = None, south: bool = False, width_px: int = 160, height_px: int = 120
) -> bytes:
    """Return a JPEG that says who took it with what; and where, if a latitude is given [° ′ ″]."""
    exif = Image.Exif()
    exif[ExifTags.Base.Make] = "Maker of cameras"
    exif[ExifTags.Base.Artist] = "seen by somebody"
    if latitude is not None:
        tags = ExifTags.GPS
        exif.get_ifd(ExifTags.IFD.GPSInfo).update(
            {
                tags.GPSLatitudeRef: "S" if south else "N",
                tags.GPSLatitude: latitude,
                tags.GPSLongitudeRef: "W",
                tags.GPSLongitude: (8.0, 15.0, 0.0),
            }
        )
    east, north = np.meshgrid(np.linspace(0, 255, width_px), np.linspace(0, 255, height_px))
    drawn = np.stack([east, north, 255 - east], axis=-1).astype(np.uint8)
    file = io.BytesIO()
    Image.fromarray(drawn).save(file, "JPEG", exif=exif, quality=90)
    return file.getvalue()
