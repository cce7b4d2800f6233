"""The benchmarks, each a ratio of two things measured in one run: `python bench/run.py [NAME...]`.

Needs DATABASE_URL of a server on which databases can be made; makes its own and drops it. Ends with 1 when a ratio is missed.
"""

from __future__ import annotations

import contextlib
import io
import sys

import chosen
import grids
import layouts
import lists
import news
import options
import plans
import records
import release
import resolve
import shop
import sizes
import studio
import write

BENCHES = {
    "resolve": resolve.run,
    "write": write.run,
    "plans": plans.run,
    "chosen": chosen.run,
    "grids": grids.run,
    "layouts": layouts.run,
    "lists": lists.run,
    "news": news.run,
    "options": options.run,
    "records": records.run,
    "release": release.run,
    "studio": studio.run,
    "shop": shop.run,
    "sizes": sizes.run,
}


def main() -> None:
    """Run the benchmarks named, or all."""
    wanted = sys.argv[1:] or list(BENCHES)
    unknown = [name for name in wanted if name not in BENCHES]
    if unknown:
        raise SystemExit(f"There is no benchmark {unknown[0]}: choose of {', '.join(BENCHES)}")
    with contextlib.redirect_stderr(io.StringIO()):
        passed = [BENCHES[name]() for name in wanted]
    raise SystemExit(0 if all(passed) else 1)


if __name__ == "__main__":
    main()
