"""Pictures of the demo: line drawings of boats, and photos of them as a phone would take them."""

import io
import math
import random

import numpy as np
from PIL import Image, ImageDraw, ImageFilter
from reportlab.pdfgen.canvas import Canvas

from waka.demo.parties import TRUST

PART = ("Lines", "Sail plan", "Construction", "Deck plan", "Rudder and stock")


def drawing_pdf(boat: str, part: str, sheet: int, scale: str = "1:10") -> bytes:
    """A drawing on A3, in landscape, with its title in the corner."""
    held = io.BytesIO()
    canvas = Canvas(held, pagesize=(1191, 842), invariant=1)
    draw = random.Random(f"{boat}{part}")  # noqa: S311 - the same every time
    canvas.setLineWidth(0.7)
    for station in range(11):
        x = 140 + station * 88
        canvas.line(x, 300, x, 640)
    for line in range(6):
        depth = 30 + line * draw.randrange(28, 36)
        path = canvas.beginPath()
        path.moveTo(140, 560)
        for step in range(1, 41):
            x = 140 + step * 22
            path.lineTo(x, 560 - depth * math.sin(math.pi * step / 40) ** (0.6 + line / 8))
        canvas.drawPath(path)
    canvas.setLineWidth(1.4)
    canvas.rect(30, 30, 1131, 782)
    canvas.rect(791, 30, 370, 110)
    for n, text in enumerate((TRUST, f"{part} of the {boat}", f"Scale {scale}", f"Sheet {sheet}")):
        canvas.setFont("Helvetica-Bold" if n == 1 else "Helvetica", 15 if n == 1 else 11)
        canvas.drawString(805, 118 - n * 24, text)
    canvas.showPage()
    canvas.save()
    return held.getvalue()


def photo_jpeg(seed: int) -> bytes:
    """A boat on the slip under some sky."""
    draw = random.Random(seed)  # noqa: S311 - the same every time
    noise = np.random.default_rng(seed)
    width, height = 1280, 960
    ramp = np.linspace(0, 1, height)[:, None, None]
    sky = np.array([draw.randrange(150, 190), draw.randrange(170, 205), draw.randrange(190, 225)], dtype=np.float64)
    slip = np.array([draw.randrange(90, 130), draw.randrange(85, 115), draw.randrange(70, 95)], dtype=np.float64)
    scene = np.where(ramp < 0.55, sky * (1 - 0.3 * ramp), slip * (1.2 - 0.4 * ramp))
    scene = np.broadcast_to(scene, (height, width, 3)) + noise.normal(0, 7, (height, width, 3))
    image = Image.fromarray(scene.clip(0, 255).astype(np.uint8))
    pen = ImageDraw.Draw(image)
    left, right = 180 + draw.randrange(120), 1080 - draw.randrange(120)
    deck, keel = 470 + draw.randrange(50), 690 + draw.randrange(40)
    hull = draw.choice(((36, 54, 70), (120, 40, 30), (225, 220, 205), (40, 84, 60)))
    pen.polygon([(left, deck), (right, deck - 40), (right - 110, keel - 30), (left + 150, keel)], fill=hull)
    for plank in range(1, 6):
        y = deck + (keel - deck) * plank // 7
        pen.line((left + 25 * plank, y, right - 18 * plank, y - 36), fill=tuple(v * 3 // 4 for v in hull), width=3)
    pen.line(((left + right) // 2, deck, (left + right) // 2 + 20, 90), fill=(96, 72, 44), width=14)
    held = io.BytesIO()
    image.filter(ImageFilter.GaussianBlur(1.2)).save(held, "JPEG", quality=82)
    return held.getvalue()
