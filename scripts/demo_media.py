"""Draws the moving pictures of the demo pieces, and puts them into their documents."""

from __future__ import annotations

import base64
import io
import math
import re
from collections.abc import Iterator
from pathlib import Path

from PIL import Image, ImageDraw

DEMO = Path(__file__).resolve().parents[1] / "src" / "keen_ripple" / "demo"
BRASS, INK, TEAL, CORAL = "#b9832b", "#15293b", (31, 122, 112), (217, 80, 58)
# Drawn larger and made smaller, so that edges are soft.
FINE = 4


def bell(frames: int = 20) -> Iterator[Image.Image]:
    """A bell that swings to rest, with waves that go out from it."""
    for n in range(frames):
        picture = Image.new("RGBA", (192, 192), (0, 0, 0, 0))
        pen = ImageDraw.Draw(picture)
        pen.pieslice((56, 40, 136, 152), 180, 360, fill=BRASS)
        pen.rectangle((56, 94, 136, 128), fill=BRASS)
        pen.rectangle((44, 126, 148, 138), fill=INK)
        pen.ellipse((84, 136, 108, 160), fill=INK)
        reach = 20 + 60 * n / frames
        for side in (0, 180):
            box = (96 - 40 - reach, 90 - reach, 96 + 40 + reach, 90 + reach)
            pen.arc(box, side - 40, side + 40, fill=(*TEAL, 255 - 255 * (n + 1) // frames), width=6)
        turned = picture.rotate(18 * math.cos(n * 0.9) * (1 - n / (frames - 1)), resample=Image.Resampling.BICUBIC)
        yield turned.resize((64, 64), Image.Resampling.LANCZOS)


def spray(frames: int = 20) -> Iterator[Image.Image]:
    """Drops that fly up from the middle, and fall."""
    for n in range(frames):
        picture = Image.new("RGBA", (180 * FINE, 96 * FINE), (0, 0, 0, 0))
        pen = ImageDraw.Draw(picture)
        t = n / (frames - 1)
        for drop in range(18):
            angle, fast = math.pi * (drop + 0.5) / 18, 0.75 + 0.25 * math.cos(drop * 2.4)
            x = (90 - 86 * fast * math.cos(angle) * (1 - (1 - t) ** 2)) * FINE
            y = (70 - 92 * fast * math.sin(angle) * t * (1.5 - 1.2 * t)) * FINE
            radius = (4.2 - 3.0 * t) * FINE * (0.7 + 0.3 * math.sin(drop * 1.7))
            if n:
                colour = CORAL if drop % 3 else (255, 255, 255)
                pen.ellipse((x - radius, y - radius, x + radius, y + radius), fill=(*colour, round(255 * (1 - t**3))))
        yield picture.resize((180, 96), Image.Resampling.LANCZOS)


def webp(frames: list[Image.Image], each_ms: int) -> str:
    first, *rest = frames
    file = io.BytesIO()
    first.save(
        file,
        "WEBP",
        save_all=True,
        append_images=rest,
        duration=each_ms,
        loop=1,
        quality=55,
        alpha_quality=60,
        method=6,
        minimize_size=True,
    )
    return f"data:image/webp;base64,{base64.b64encode(file.getvalue()).decode()}"


def put(piece: str, layer: str, frames: Iterator[Image.Image], each_ms: int) -> None:
    """Its source and its length, all else as it is written."""
    file = DEMO / f"{piece}.json"
    pictures = list(frames)
    of_layer = rf'("id": "{layer}"[^{{}}]*?"length_ms": )\d+(,\s+"source": ")[^"]*'
    source, length_ms = webp(pictures, each_ms), len(pictures) * each_ms
    text, found = re.subn(of_layer, rf"\g<1>{length_ms}\g<2>{source}", file.read_text("utf-8"))
    if found != 1:
        raise SystemExit(f"{piece} has no medium {layer}, or its length and source do not stand side by side.")
    file.write_text(text, "utf-8")


if __name__ == "__main__":
    put("fog-notice", "bell", bell(), 60)
    put("harbour-post", "spray", spray(), 40)
