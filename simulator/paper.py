"""What was cut: strokes with their tools, places and times, as SVG, PNG and a log."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from pathlib import Path

COLORS = ("#1b2a4e", "#8a5a2b", "#2c6e5b", "#7a3b6b", "#4a6b8a", "#6b6b2c", "#8a3b3b", "#3b3b3b")


@dataclass
class Stroke:
    """Where the tool ran while it was down, in mm, y up; how: speed, force or power as it was told; when, in
    seconds."""

    tool: int
    how: dict[str, float]
    points: list[tuple[float, float]]
    begun: float
    ended: float = 0.0


@dataclass
class Paper:
    """A sheet of a size in mm, and the strokes on it."""

    width: float
    height: float
    strokes: list[Stroke] = field(default_factory=list)

    def clear(self) -> None:
        self.strokes.clear()

    def svg(self) -> str:
        rows = [
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width}mm" height="{self.height}mm" '
            f'viewBox="0 0 {self.width} {self.height}">',
            f'<rect width="{self.width}" height="{self.height}" fill="#fffdf6"/>',
        ]
        for stroke in self.strokes:
            places = " ".join(f"{x:.4f},{self.height - y:.4f}" for x, y in stroke.points)
            color = COLORS[stroke.tool % len(COLORS)]
            rows.append(f'<polyline points="{places}" fill="none" stroke="{color}" stroke-width="0.15"/>')
        return "\n".join([*rows, "</svg>\n"])

    def log(self) -> str:
        rows = [
            {"tool": s.tool, **s.how, "begun": round(s.begun, 4), "ended": round(s.ended, 4), "points": s.points}
            for s in self.strokes
        ]
        return "\n".join(map(json.dumps, rows)) + "\n"

    def write(self, folder: Path, name: str) -> None:
        """The sheet as NAME.svg, NAME.png and NAME.jsonl."""
        from PIL import Image, ImageDraw

        folder.mkdir(parents=True, exist_ok=True)
        (folder / f"{name}.svg").write_text(self.svg())
        (folder / f"{name}.jsonl").write_text(self.log())
        scale = min(1600 / max(self.width, self.height), 8.0)
        picture = Image.new("RGB", (round(self.width * scale), round(self.height * scale)), "#fffdf6")
        pen = ImageDraw.Draw(picture)
        for stroke in self.strokes:
            places = [(x * scale, (self.height - y) * scale) for x, y in stroke.points]
            pen.line(places if len(places) > 1 else places * 2, fill=COLORS[stroke.tool % len(COLORS)], width=1)
        picture.save(folder / f"{name}.png")
