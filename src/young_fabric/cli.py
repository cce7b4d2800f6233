"""The command line: databases, people, the demo, large catalogues, and the server."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy.engine import Engine

from young_fabric.config import settings
from young_fabric.core.base.collector import seldom_collected
from young_fabric.core.base.errors import Refusal
from young_fabric.store.base import make_engine, make_sessions


@contextmanager
def _engine() -> Iterator[Engine]:
    engine = make_engine(settings().sqlalchemy_url, settings().pool)
    try:
        yield engine
    finally:
        engine.dispose()


def _db(_: argparse.Namespace) -> None:
    from young_fabric.service.values.recount import recount
    from young_fabric.store.migrate import migrate
    from young_fabric.store.repos.shop import order_titles

    with _engine() as engine:
        migrate(engine)
        with make_sessions(engine).begin() as session:
            order_titles(session)
            mended = recount(session, _counted)
    print("\n".join([*mended, "The database is up to date."]))


def _recount(_: argparse.Namespace) -> None:
    from young_fabric.service.values.recount import recount

    with _engine() as engine, make_sessions(engine).begin() as session:
        mended = recount(session, _counted)
    print("\n".join(mended) or "All that is kept is as it should be.")


def _demo(_: argparse.Namespace) -> None:
    from young_fabric.demo.load import load

    with _engine() as engine:
        print(load(make_sessions(engine), settings().files, say=_say))


def _counted(done: int, total: int) -> None:
    """Tells how far counting anew is, where there is much to count."""
    if total > 5_000:
        _say(f"{done:,} of {total:,}")


def _say(words: str) -> None:
    print(f"· {words}", file=sys.stderr, flush=True)


def _seed(args: argparse.Namespace) -> None:
    from young_fabric.demo.seed import seed

    with _engine() as engine:
        print(seed(engine, args.products, args.seed))


def _run(args: argparse.Namespace) -> None:
    from gunicorn.app.base import BaseApplication

    from young_fabric.web.app import create_app

    class Server(BaseApplication):  # type: ignore[misc]
        def load_config(self) -> None:
            options = {
                "bind": f"{args.host}:{args.port}",
                "workers": args.workers,
                "threads": 8,
                "worker_class": "gthread",
                "timeout": 120,
                "graceful_timeout": 10,
                "loglevel": "warning",
                "preload_app": False,
            }
            for name, value in options.items():
                self.cfg.set(name, value)

        def load(self) -> object:
            app = create_app(settings())
            seldom_collected()
            return app

    sys.argv = sys.argv[:1]
    Server().run()


def _work(_: argparse.Namespace) -> None:
    from young_fabric import logs
    from young_fabric.jobs.queue import run_worker
    from young_fabric.service.long_work.sweeping import Stores, sweep
    from young_fabric.store.files import FilesOnDisk

    logs.set_up()
    root = settings().files
    stores = Stores(FilesOnDisk(root), FilesOnDisk(root / "sent"), FilesOnDisk(root / "orders"))
    with _engine() as engine:
        sessions = make_sessions(engine)
        seldom_collected()
        run_worker(settings().database_url, sessions, lambda: sweep(sessions, stores))


def _user(args: argparse.Namespace) -> None:
    from young_fabric.service.acting.people import add

    password = args.password or sys.stdin.readline().strip()
    with _engine() as engine, make_sessions(engine).begin() as session:
        add(session, args.email, args.name, password, args.rights.split(","))
    print(f"{args.name} may now {args.rights}.")


def _openapi(args: argparse.Namespace) -> None:
    from young_fabric.web.app import create_app, openapi

    Path(args.file).write_text(json.dumps(openapi(create_app(settings())), indent=1, sort_keys=True) + "\n")  # type: ignore[arg-type]


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser("young-fabric", description="Fields, reusable sets, and how they show.")
    verbs = parser.add_subparsers(required=True, metavar="COMMAND")
    verbs.add_parser("db", help="bring the database up to date").set_defaults(do=_db)
    verbs.add_parser("recount", help="count anew what is kept beside products, and say what differed").set_defaults(
        do=_recount
    )
    verbs.add_parser("demo", help="load Saltmarsh Studio Supply, unless a shop is there").set_defaults(do=_demo)
    seed = verbs.add_parser("seed", help="make a catalogue of any size out of the demo's sorts of goods")
    seed.add_argument("--products", type=int, required=True)
    seed.add_argument("--seed", type=int, default=1, help="the same number makes the same catalogue")
    seed.set_defaults(do=_seed)
    run = verbs.add_parser("run", help="serve")
    run.add_argument("--host", default="127.0.0.1")
    run.add_argument("--port", type=int, default=8000)
    run.add_argument("--workers", type=int, default=2)
    run.set_defaults(do=_run)
    verbs.add_parser("work", help="do the long work the studio asks for, such as releases").set_defaults(do=_work)
    user = verbs.add_parser("user", help="add a person; the password is asked on standard input")
    user.add_argument("email")
    user.add_argument("name")
    user.add_argument("--rights", default="look", help="look, edit and release, joined by commas")
    user.add_argument("--password", help=argparse.SUPPRESS)
    user.set_defaults(do=_user)
    openapi = verbs.add_parser("openapi", help="write the API's description to a file")
    openapi.add_argument("file")
    openapi.set_defaults(do=_openapi)
    return parser


def main() -> None:
    """Run a command; refusals and wrong settings are told in one line."""
    args = _parser().parse_args()
    try:
        args.do(args)
    except (Refusal, ValueError) as error:
        print(f"young-fabric: {error}", file=sys.stderr)
        raise SystemExit(1) from error


if __name__ == "__main__":
    main()
