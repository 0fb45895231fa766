"""The application factory."""

from __future__ import annotations

from pathlib import Path

from flask import Flask

from keen_ripple.jobs.jobs import Jobs
from keen_ripple.jobs.queue import place_of
from keen_ripple.store import connect, migrate, told
from keen_ripple.web import (
    apart,
    collection,
    compressed,
    damaged,
    edits,
    errors,
    fonts,
    handoffs,
    intakes,
    links,
    page,
    pieces,
    presets,
    questions,
    rehearsals,
    retimings,
    schema,
    security,
    signing_in,
    springs,
    takes,
)
from keen_ripple.web import jobs as job_answers
from keen_ripple.web.access import HERE, Access


def create_app(database_path: Path | str, access: Access = HERE, jobs: Jobs | None = None) -> Flask:
    """The application on one database file, which is made or brought up to date; without `jobs`, they wait in a file
    beside it. Raises StoreFault, MigrationFault."""
    with told(database_path):
        conn = connect(database_path)
        try:
            migrate(conn)
        finally:
            conn.close()
    app = Flask(__name__, static_folder=None)
    app.config.update(DATABASE=str(database_path), MAX_CONTENT_LENGTH=16 * 1024 * 1024)
    app.extensions["jobs"] = jobs or Jobs(place_of("", database_path))
    # Pretty or sorted JSON costs time on every answer.
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.json.compact = True  # type: ignore[attr-defined]
    app.json.ensure_ascii = False  # type: ignore[attr-defined]
    # What comes last is done first to an answer.
    for part in (security, errors, compressed, apart):
        part.install(app)
    # Strangers are refused before anybody is asked to sign in.
    signing_in.install(app, access)
    for module in (
        pieces,
        collection,
        damaged,
        edits,
        questions,
        retimings,
        springs,
        presets,
        takes,
        rehearsals,
        intakes,
        fonts,
        handoffs,
        job_answers,
        links,
        schema,
        page,
    ):
        app.register_blueprint(module.blueprint)
    return app
