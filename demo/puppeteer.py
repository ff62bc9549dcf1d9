"""A letter B on a plate, bought, at a wrong scale: no unit is stated, and it is ten times as large as it is meant.

Truth, for the tests: the plate is 900 units wide and 1200 high, its top left at 100, 50; letter and plate on layers of
their own; the letter has two counters.
"""

from __future__ import annotations

PLATE, LETTER = "#7d3f46", "#d9c08a"
B = (
    "M300 250H590C730 250 790 320 790 420C790 500 750 560 680 585C775 605 830 680 830 780"
    "C830 920 740 1050 570 1050H300Z"
    "M440 370V530H570C620 530 650 500 650 450C650 400 620 370 570 370Z"
    "M440 650V930H570C640 930 680 870 680 790C680 710 640 650 570 650Z"
)


def draw() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="1100" height="1300" viewBox="0 0 1100 1300">
<title>Letter of the puppeteer</title>
<g id="plate" fill="{PLATE}">
<title>Plate</title>
<rect id="board" x="100" y="50" width="900" height="1200" rx="120"/>
</g>
<g id="letter" fill="{LETTER}">
<title>Letter</title>
<path id="B" fill-rule="evenodd" d="{B}"/>
</g>
</svg>
"""
