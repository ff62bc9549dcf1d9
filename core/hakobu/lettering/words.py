"""What OpenType calls by tags and bits, in plain words."""

from __future__ import annotations

from collections.abc import Iterable

#: Forms that a person can ask for (OpenType 1.9.1, registered features), by their tags.
FORMS = {
    "salt": "other forms",
    "swsh": "swashes",
    "titl": "for titles",
    "hist": "old forms",
    "dlig": "rare ligatures",
    "smcp": "small capitals",
    "c2sc": "small capitals for capitals",
    "onum": "figures of old style",
    "lnum": "figures as high as capitals",
    "tnum": "figures of one width",
    "pnum": "figures of their own width",
    "frac": "fractions",
    "zero": "a slashed nought",
    "case": "signs as high as capitals",
}
#: Bits of OS/2 fsType (OpenType 1.9.1, "OS/2"), the most severe first.
EMBEDDING = (
    (0x0002, "Its maker allows no use in files for others without leave: ask before you sell what is made of it."),
    (0x0004, "Its maker allows it to be seen and printed in documents."),
    (0x0008, "Its maker allows it in documents that others change."),
)


def feature_words(tags: Iterable[str]) -> dict[str, str]:
    """The forms among OpenType features, each with its words, in order of their tags."""
    known = dict(FORMS) | {f"ss{n:02}": f"style set {n}" for n in range(1, 21)}
    return {tag: known[tag] for tag in sorted(set(tags)) if tag in known}


def embedding_words(bits: int) -> str:
    """What a face's maker allows; nothing where nothing is held back."""
    said = next((words for bit, words in EMBEDDING if bits & bit), "")
    return f"{said} Only its pixels may be kept in files." if bits & 0x0200 else said
