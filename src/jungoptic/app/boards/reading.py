"""Pictures out of files: PNG, JPEG, TIFF, EXR and pages of PDF, opened in limits."""

from __future__ import annotations

import io
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from tempfile import NamedTemporaryFile

import numpy as np
import OpenEXR
from PIL import ExifTags, Image, ImageFile, ImageOps, ImageSequence, UnidentifiedImageError

from jungoptic.app.photographs.tags import SIDEWAYS, tagged_view_deg
from jungoptic.core.errors import InputError
from jungoptic.core.stage import encoded

MOST_BYTES = 30_000_000
MOST_PIXELS = 80_000_000
MOST_PAGES = 60
KEPT_PX = 1920
FORMATS = ("PNG", "JPEG", "TIFF")
QUALITY = 88
HEAD_BYTES = 1024
_EXR = b"\x76\x2f\x31\x01"
_HEADS = (_EXR, b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff", b"II*\0", b"MM\0*", b"II+\0", b"MM\0+")


@dataclass(frozen=True)
class Picture:
    """One picture out of a file, as it is kept: a JPEG, or a PNG where it is kept transparent; ``came_px`` is
    how wide and how high it was.
    """

    name: str
    data: bytes
    width_px: int
    height_px: int
    came_px: tuple[int, int]


def pictures(name: str, data: bytes, *, transparent: bool = False) -> Iterator[Picture]:
    """The pictures in a file, by what it contains and not by its name: every page of a PDF or TIFF. What is
    transparent stays so, or else is laid on white.

    Raises InputError.
    """
    refuse_by_size(name, len(data))
    if data.startswith(_EXR):
        yield _kept(name, _exr(name, data), transparent)
    elif _is_pdf(data):
        yield from _pdf_pages(name, data)
    else:
        yield from _frames(name, data, transparent)


def refuse_by_size(name: str, size_bytes: int) -> None:
    """Raise InputError for a file that has more than may come."""
    if size_bytes > MOST_BYTES:
        raise InputError.at(
            "file",
            f"“{name}” has {size_bytes / 1e6:.0f} MB; pictures may have up to {MOST_BYTES / 1e6:.0f} MB. Save"
            " it smaller.",
        )


def refuse_by_head(name: str, head: bytes) -> None:
    """Raise InputError for what does not begin as any of the kinds does."""
    if not (head.startswith(_HEADS) or _is_pdf(head)):
        raise _unreadable(name)


def _is_pdf(data: bytes) -> bool:
    return data[:HEAD_BYTES].lstrip().startswith(b"%PDF-")


def _unreadable(name: str) -> InputError:
    return InputError.at(
        "file",
        f"“{name}” could not be read as a PNG, JPEG, TIFF, EXR or PDF: it may be damaged or of another kind.",
    )


def _exr(name: str, data: bytes) -> Image.Image:
    """Linear light of an EXR as a display shows it, with its transparency."""
    with NamedTemporaryFile(suffix=".exr") as file:
        file.write(data)
        file.flush()
        try:
            with OpenEXR.File(file.name, header_only=True) as head:
                low, high = head.header()["dataWindow"]
            width, height = int(high[0] - low[0]) + 1, int(high[1] - low[1]) + 1
            if width * height > MOST_PIXELS:
                raise InputError.at("file", _too_large(name, width, height))
            with OpenEXR.File(file.name) as whole:
                channels = whole.channels()
                planes = next((channels[key].pixels for key in ("RGBA", "RGB", "Y") if key in channels), None)
        except InputError:
            raise
        except Exception:  # OpenEXR throws what it likes at a damaged file
            planes = None
    if planes is None:
        raise InputError.at(
            "file", f"“{name}” could not be read as an EXR with red, green and blue: it may be damaged."
        )
    light = np.nan_to_num(np.atleast_3d(planes).astype(np.float32), posinf=1.0, neginf=0.0)
    if light.shape[2] == 1:
        light = np.repeat(light, 3, axis=2)
    codes = encoded(np.ascontiguousarray(light[..., :3]))
    if light.shape[2] > 3:
        share = np.clip(light[..., 3:] * 255.0 + 0.5, 0, 255).astype(np.uint8)
        codes = np.concatenate([codes, share], axis=2)
    return Image.fromarray(codes)


def _too_large(name: str, width: int, height: int) -> str:
    return f"“{name}” is {width} × {height}; pictures may have up to {MOST_PIXELS / 1e6:.0f} megapixels."


def _smaller(image: Image.Image) -> Image.Image:
    share = KEPT_PX / max(image.size)
    if share >= 1:
        return image
    size = max(1, round(image.width * share)), max(1, round(image.height * share))
    return image.resize(size, Image.Resampling.LANCZOS, reducing_gap=3.0)


def _kept(name: str, image: Image.Image, transparent: bool = False) -> Picture:
    """Made small first: what is done to a large picture is done in the memory of a small one."""
    turned = image.getexif().get(ExifTags.Base.Orientation) in SIDEWAYS
    came = image.size[::-1] if turned else image.size
    image.draft("RGB", (2 * KEPT_PX, 2 * KEPT_PX))
    flat = image.convert("RGBA") if image.mode in ("LA", "P", "PA") else image
    if flat.mode.startswith("I") or flat.mode == "F":
        flat = flat.convert("I").point(lambda value: value / 257.0).convert("L")
    if flat.mode not in ("L", "RGB", "RGBA"):
        flat = flat.convert("RGB")
    clear = flat.mode == "RGBA" and flat.getchannel("A").histogram()[255] < flat.width * flat.height
    flat = ImageOps.exif_transpose(_smaller(flat))
    out = io.BytesIO()
    if transparent and clear:
        flat.save(out, "PNG")
    else:
        if flat.mode == "RGBA":
            flat = Image.alpha_composite(Image.new("RGBA", flat.size, (255, 255, 255, 255)), flat)
        flat.convert("RGB").save(out, "JPEG", quality=QUALITY)
    return Picture(name, out.getvalue(), *flat.size, came)


def _frames(name: str, data: bytes, transparent: bool) -> Iterator[Picture]:
    ImageFile.LOAD_TRUNCATED_IMAGES = (
        False  # for the whole process, and the PDF maker sets it when it is loaded: half a board is no board
    )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=FORMATS)
            if image.width * image.height > MOST_PIXELS:
                raise InputError.at("file", _too_large(name, image.width, image.height))
            count = getattr(image, "n_frames", 1)
            if count > MOST_PAGES:
                raise InputError.at(
                    "file", f"“{name}” has {count} pages; up to {MOST_PAGES} are read at once."
                )
            for at, frame in enumerate(ImageSequence.Iterator(image)):
                yield _kept(name if count == 1 else f"{name}, page {at + 1}", frame, transparent)
    except (Image.DecompressionBombWarning, Image.DecompressionBombError):
        raise InputError.at(
            "file", f"“{name}” is too large; pictures may have up to {MOST_PIXELS / 1e6:.0f} megapixels."
        ) from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if isinstance(error, InputError):
            raise
        raise _unreadable(name) from None


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


def first_picture(name: str, data: bytes) -> Picture:
    """The first picture in a file, as a board is kept. Raises InputError."""
    return next(pictures(name, data))


def first_with_its_view(name: str, data: bytes) -> tuple[Picture, float | None]:
    """The first picture in a file, as the picture of a layer is kept, and its angle of view across, degrees,
    where its tags tell it. Raises InputError.
    """
    return next(pictures(name, data, transparent=True)), tagged_view_deg(name, data)


def looked_at(name: str, data: bytes) -> None:
    """Refuse what is no whole PNG or JPEG as pictures are kept. Raises InputError."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=("PNG", "JPEG"))
            if max(image.size) > KEPT_PX or getattr(image, "n_frames", 1) > 1:
                raise InputError.at("file", _too_large(name, *image.size))
            image.load()
    except (Image.DecompressionBombWarning, Image.DecompressionBombError):
        raise InputError.at("file", f"“{name}” is too large to be a picture that is kept here.") from None
    except InputError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError):
        raise InputError.at("file", f"“{name}” could not be read as a PNG or JPEG: it is damaged.") from None


def smaller(jpeg: bytes, width_px: int) -> bytes:
    """The picture not wider than ``width_px``."""
    image = Image.open(io.BytesIO(jpeg), formats=("JPEG",))
    image.draft("RGB", (width_px, width_px))
    image.thumbnail((width_px, width_px * 4), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
