"""HTML to PDF with the application's own fonts; nothing is fetched."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings


def fonts() -> dict[str, str]:
    """The application's own fonts, by role, from the front-end build."""
    found: dict[str, str] = {}
    for role, pattern in (
        ("text", "atkinson-hyperlegible-next-latin-wght-normal*.woff2"),
        ("mono", "atkinson-hyperlegible-mono-latin-wght-normal*.woff2"),
    ):
        files: list[Path] = sorted((settings.WEB_BUILD / "assets").glob(pattern))
        if files:
            found[role] = files[0].as_uri()
    return found


def write_pdf(html: str) -> bytes:
    """The PDF of the page. Only the application's own font files are read; nothing is fetched."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    own = settings.WEB_BUILD.as_uri() + "/"

    class OwnFilesOnly(URLFetcher):  # type: ignore[misc]
        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith(("data:", own)) or ".." in url:
                raise ValueError(f"A card reads no outside file: {url}")
            return super().fetch(url, headers)

    pdf: bytes = HTML(string=html, url_fetcher=OwnFilesOnly()).write_pdf()
    return pdf
