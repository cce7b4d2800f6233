"""Made-up sheets of the demo as PDF (ISO 32000-1), a page of plain lines each."""

from __future__ import annotations

from collections.abc import Sequence


def sheet(title: str, lines: Sequence[str]) -> bytes:
    """A page with a title and lines below it, the same bytes each time; letters of Latin-1 alone."""
    written = ["BT /F1 20 Tf 60 770 Td", f"({_escaped(title)}) Tj", "/F1 11 Tf 0 -34 Td 16 TL"]
    written += [f"({_escaped(line)}) Tj T*" for line in lines]
    stream = "\n".join([*written, "ET"]).encode("latin-1", "replace")
    objects = [
        b"<< /Type /Catalog /Pages 2 0 R >>",
        b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R "
        b"/Resources << /Font << /F1 5 0 R >> >> >>",
        b"<< /Length %d >>\nstream\n%s\nendstream" % (len(stream), stream),
        b"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>",
    ]
    out, places = b"%PDF-1.4\n", []
    for number, content in enumerate(objects, start=1):
        places.append(len(out))
        out += b"%d 0 obj\n%s\nendobj\n" % (number, content)
    table = b"".join(b"%010d 00000 n \n" % place for place in places)
    size = len(objects) + 1
    tail = b"trailer << /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n" % (size, len(out))
    return out + b"xref\n0 %d\n0000000000 65535 f \n" % size + table + tail


def _escaped(text: str) -> str:
    return text.replace("\\", r"\\").replace("(", r"\(").replace(")", r"\)")
