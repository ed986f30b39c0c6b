"""Plan days from a file: plan_days.py FILE.json, or - for what is piped in; --schema prints what it reads.

Prints the plan as JSON, progress to standard error. Exits 1 where something is left out, 2 on bad input.
"""

import json
import sys
from pathlib import Path

from jungoptic.core.days import Planned, Progress, Shooting, plan_days, plan_file
from jungoptic.core.errors import InputError


def schema() -> dict[str, object]:
    """What the file may say, and what comes out."""
    return {"reads": Shooting.model_json_schema(), "writes": Planned.model_json_schema(mode="serialization")}


def tell(progress: Progress) -> None:
    costs = progress.costs
    bound = f" (none needs fewer than {progress.fewest_days})" if progress.fewest_days else ""
    told = {
        "jobs": len(progress.bookings),
        "days": f"{costs.days}{bound}",
        "people-days": costs.people_days,
        "min changing": costs.changing_min,
        "min waiting": costs.waiting_min,
    }
    words = ", ".join(f"{name} {value}" for name, value in told.items())
    print(f"{progress.share:4.0%}  {words}", file=sys.stderr)


def main(words: list[str]) -> int:
    if words == ["--schema"]:
        print(json.dumps(schema(), indent=1, ensure_ascii=False))
        return 0
    if len(words) != 1 or words[0].startswith("--"):
        print("Say which file: ./run days FILE.json, or ./run days --schema", file=sys.stderr)
        return 2
    try:
        text = sys.stdin.read() if words[0] == "-" else Path(words[0]).read_text("utf-8")
        shooting = Shooting.read(json.loads(text))
        plan = plan_days(shooting, tell)
    except OSError as error:
        print(f"{words[0]} cannot be read: {error.strerror}.", file=sys.stderr)
        return 2
    except UnicodeDecodeError:
        print(f"{words[0]} is not text in UTF-8.", file=sys.stderr)
        return 2
    except json.JSONDecodeError as error:
        print(f"Line {error.lineno}, column {error.colno}: this is not JSON ({error.msg}).", file=sys.stderr)
        return 2
    except InputError as error:
        print(
            "\n".join(f"{p.field}: {p.message}" if p.field else p.message for p in error.problems),
            file=sys.stderr,
        )
        return 2
    print(plan_file(shooting, plan).model_dump_json(indent=1))
    return 1 if plan.left_out else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
