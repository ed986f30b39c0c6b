"""Run one calculation from the command line: calc.py NAME '{"field": value}'.

Prints JSON; exits 2 on bad input.
"""

import json
import sys

from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS, find
from jungoptic.core.errors import InputError


def main(words: list[str]) -> int:
    assert handbook
    if not words:
        print(
            "Name a calculation:\n  "
            + "\n  ".join(f"{c.name:24}{c.question}" for c in CALCULATIONS.values()),
            file=sys.stderr,
        )
        return 2
    try:
        values = json.loads(words[1]) if len(words) > 1 else {}
        print(json.dumps(find(words[0]).run(values), indent=2))
    except json.JSONDecodeError as error:
        print(f"The input is not JSON: {error.msg} at character {error.pos + 1}.", file=sys.stderr)
        return 2
    except InputError as error:
        print(
            "\n".join(f"{p.field}: {p.message}" if p.field else p.message for p in error.problems),
            file=sys.stderr,
        )
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
