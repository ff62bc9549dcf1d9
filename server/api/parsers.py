"""What is read of a request's body: JSON within bounds, so that nothing behind it need look again."""

from __future__ import annotations

import json

from django.conf import settings
from rest_framework.parsers import JSONParser

from hakobu.errors import BadRequest, TooMuch

#: Objects and lists in each other, and how large a number may be: what a double holds exactly.
MOST_DEEP, MOST_NUMBER = 32, 2**53
#: Values in all, and letters in one word.
MOST_VALUES, MOST_LETTERS = 200_000, 100_000


class BoundedJson(JSONParser):
    """Raises BadRequest for what is no JSON, too deep, not finite, or holds signs that stand for none; TooMuch for what
    is too large."""

    def parse(self, stream, media_type=None, parser_context=None):
        size = int((parser_context or {})["request"].META.get("CONTENT_LENGTH") or 0)
        most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        data = b"" if size > most else stream.read(most + 1)
        if size > most or len(data) > most:
            raise TooMuch(f"This request is larger than {most // 2**20} MB: ask for less at once.")
        try:
            parsed = json.loads(data, parse_constant=_refused)
        except RecursionError as error:
            raise BadRequest(TOO_DEEP) from error
        except ValueError as error:
            raise BadRequest("The request is no JSON that can be read.") from error
        _check(parsed)
        return parsed


TOO_DEEP = f"The request nests deeper than {MOST_DEEP} levels."


def _refused(name: str):
    raise BadRequest(f"The request holds {name}, which is no number that can be worked with.")


def _check(value) -> None:
    level, count = [value], 0
    for _ in range(MOST_DEEP):
        count += len(level)
        if count > MOST_VALUES:
            raise TooMuch(f"The request holds more than {MOST_VALUES:,} values: ask for less at once.")
        inner = []
        for each in level:
            if isinstance(each, dict):
                inner += [*each, *each.values()]
            elif isinstance(each, list):
                inner += each
            else:
                _check_single(each)
        level = inner
        if not level:
            return
    raise BadRequest(TOO_DEEP)


def _check_single(value) -> None:
    if isinstance(value, str):
        if len(value) > MOST_LETTERS:
            raise BadRequest(f"The request holds a word of more than {MOST_LETTERS:,} letters.")
        if "\0" in value or any("\ud800" <= letter <= "\udfff" for letter in value):
            raise BadRequest("The request holds signs that stand for no letter.")
    elif isinstance(value, int | float) and not abs(value) <= MOST_NUMBER:
        raise BadRequest("The request holds a number that is too large.")
