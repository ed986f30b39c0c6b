"""Pictures out of files: PNG, JPEG, TIFF and pages of PDF, opened in limits."""

from __future__ import annotations

import io
import warnings
from collections.abc import Iterator
from dataclasses import dataclass

from PIL import Image, ImageFile, ImageOps, ImageSequence, UnidentifiedImageError

from jungoptic.core.errors import InputError

MOST_BYTES = 30_000_000
MOST_PIXELS = 80_000_000
MOST_PAGES = 60
KEPT_PX = 1920
FORMATS = ("PNG", "JPEG", "TIFF")
QUALITY = 88


@dataclass(frozen=True)
class Picture:
    """One picture out of a file, as it is kept; ``came_px`` is how wide and how high it was."""

    name: str
    jpeg: bytes
    width_px: int
    height_px: int
    came_px: tuple[int, int]


def pictures(name: str, data: bytes) -> Iterator[Picture]:
    """The pictures in a file, by what it contains and not by its name: every page of a PDF or TIFF.

    Raises InputError.
    """
    if len(data) > MOST_BYTES:
        raise InputError.at(
            "file",
            f"“{name}” has {len(data) / 1e6:.0f} MB; pictures may have up to {MOST_BYTES / 1e6:.0f} MB. Save"
            " it smaller.",
        )
    yield from _pdf_pages(name, data) if data[:1024].lstrip().startswith(b"%PDF-") else _frames(name, data)


def _kept(name: str, image: Image.Image) -> Picture:
    flat = ImageOps.exif_transpose(image)
    if flat.mode in ("RGBA", "LA", "P", "PA"):
        flat = flat.convert("RGBA")
        paper = Image.new("RGBA", flat.size, (255, 255, 255, 255))
        flat = Image.alpha_composite(paper, flat)
    if flat.mode.startswith("I") or flat.mode == "F":
        flat = flat.convert("I").point(lambda value: value / 257.0).convert("L")
    flat = flat.convert("RGB")
    came = flat.size
    flat.thumbnail((KEPT_PX, KEPT_PX), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    flat.save(out, "JPEG", quality=QUALITY)
    return Picture(name, out.getvalue(), *flat.size, came)


def _frames(name: str, data: bytes) -> Iterator[Picture]:
    ImageFile.LOAD_TRUNCATED_IMAGES = (
        False  # for the whole process, and the PDF maker sets it when it is loaded: half a board is no board
    )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=FORMATS)
            if image.width * image.height > MOST_PIXELS:
                raise InputError.at(
                    "file",
                    f"“{name}” is {image.width} × {image.height}; pictures may have up to"
                    f" {MOST_PIXELS / 1e6:.0f} megapixels.",
                )
            count = getattr(image, "n_frames", 1)
            if count > MOST_PAGES:
                raise InputError.at(
                    "file", f"“{name}” has {count} pages; up to {MOST_PAGES} are read at once."
                )
            for at, frame in enumerate(ImageSequence.Iterator(image)):
                yield _kept(name if count == 1 else f"{name}, page {at + 1}", frame)
    except (Image.DecompressionBombWarning, Image.DecompressionBombError):
        raise InputError.at(
            "file", f"“{name}” is too large; pictures may have up to {MOST_PIXELS / 1e6:.0f} megapixels."
        ) from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if isinstance(error, InputError):
            raise
        raise InputError.at(
            "file",
            f"“{name}” could not be read as a PNG, JPEG, TIFF or PDF: it may be damaged or of another kind.",
        ) from None


def _pdf_pages(name: str, data: bytes) -> Iterator[Picture]:
    import pypdfium2

    try:
        document = pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError:
        raise InputError.at(
            "file", f"“{name}” could not be opened as a PDF: it may be damaged or locked by a password."
        ) from None
    try:
        if len(document) > MOST_PAGES:
            raise InputError.at(
                "file", f"“{name}” has {len(document)} pages; up to {MOST_PAGES} are read at once."
            )
        for at in range(len(document)):
            page = document[at]
            longest = max(page.get_size()) or 1.0
            yield _kept(
                name if len(document) == 1 else f"{name}, page {at + 1}",
                page.render(scale=min(KEPT_PX / longest, 8.0)).to_pil(),
            )
    finally:
        document.close()


def smaller(jpeg: bytes, width_px: int) -> bytes:
    """The picture not wider than ``width_px``."""
    image = Image.open(io.BytesIO(jpeg), formats=("JPEG",))
    image.draft("RGB", (width_px, width_px))
    image.thumbnail((width_px, width_px * 4), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
