"""What stands on the pages of a PDF that the application made."""

from __future__ import annotations

from dataclasses import dataclass

import pypdfium2
import pypdfium2.raw as pdfium


@dataclass(frozen=True)
class PdfPage:
    """The words of a page, one space between them, its pictures, and its size in points."""

    text: str
    pictures: int
    size: tuple[int, int]


def pages_of(pdf: bytes) -> list[PdfPage]:
    return [
        PdfPage(
            " ".join(page.get_textpage().get_text_range().split()),
            sum(1 for _ in page.get_objects(filter=[pdfium.FPDF_PAGEOBJ_IMAGE])),
            (round(page.get_width()), round(page.get_height())),
        )
        for page in pypdfium2.PdfDocument(pdf)
    ]
