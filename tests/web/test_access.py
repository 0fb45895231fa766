"""Under another name the application is there for those who sign in, and for nobody else."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from threading import Thread
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient
from selenium.common.exceptions import WebDriverException
from selenium.webdriver import Keys
from selenium.webdriver.support.ui import WebDriverWait
from werkzeug.serving import make_server

from keen_ripple.cli import main
from keen_ripple.core.errors import Fault
from keen_ripple.web import create_app
from keen_ripple.web.access import HERE, Access, access_of
from support import piece

ORIGIN, HOST, SECRET = "https://ripple.quay-nine.example", "ripple.quay-nine.example", "tide-and-lantern-nine"
HERE_TOO = {"Host": "127.0.0.1:8090"}
THERE = {"Host": HOST}
BY_SECRET, BY_PROXY = Access(ORIGIN, SECRET), Access(ORIGIN, user_header="X-Harbour-User")


def client_of(folder: Path, access: Access) -> FlaskClient:
    client = create_app(folder / "web.sqlite", access).test_client()
    # As browsers keep a cookie of https.
    client.environ_base["wsgi.url_scheme"] = "https"
    return client


def signed_in(client: FlaskClient, secret: str = SECRET, to: str = "/") -> int:
    return client.post("/sign-in", data={"secret": secret, "to": to}, headers=THERE).status_code


@pytest.fixture
def secret_file(tmp_path: Path) -> Path:
    file = tmp_path / "secret"
    file.write_text(f"{SECRET}\n", "utf-8")
    return file


@pytest.mark.parametrize(
    ("access", "headers", "status"),
    [
        (HERE, HERE_TOO, 200),
        (HERE, THERE, 403),
        # With a sign-in, also whoever comes from this machine, as a proxy does, has to.
        (BY_SECRET, HERE_TOO, 401),
        (BY_SECRET, THERE, 401),
        (BY_SECRET, {"Host": "other.quay-nine.example"}, 403),
        (BY_SECRET, {**THERE, "Origin": "https://harbour.example"}, 403),
        (BY_SECRET, {**THERE, "Origin": f"http://{HOST}"}, 403),
        (BY_SECRET, {**THERE, "X-Harbour-User": "pilot"}, 401),
        (BY_PROXY, THERE, 401),
        (BY_PROXY, {**THERE, "X-Harbour-User": " "}, 401),
        (BY_PROXY, {**THERE, "X-Harbour-User": "pilot", "Origin": ORIGIN}, 200),
    ],
)
def test_who_reaches_the_pieces(tmp_path: Path, access: Access, headers: Mapping[str, str], status: int) -> None:
    assert client_of(tmp_path, access).get("/api/pieces", headers=dict(headers)).status_code == status


def test_signing_in_and_out_with_the_secret(tmp_path: Path) -> None:
    client = client_of(tmp_path, BY_SECRET)
    asked = client.get("/pieces/tide-loader", headers=THERE)
    assert (asked.status_code, asked.headers["Location"]) == (303, "/sign-in?to=/pieces/tide-loader")
    form = client.get(asked.headers["Location"], headers=THERE)
    assert b'name="to" value="/pieces/tide-loader"' in form.data
    assert "form-action 'self'" in form.headers["Content-Security-Policy"]
    assert signed_in(client, "tide-and-lantern-ten") == 403
    assert client.get("/api/pieces", headers=THERE).status_code == 401
    entered = client.post("/sign-in", data={"secret": SECRET, "to": "/pieces/tide-loader"}, headers=THERE)
    assert (entered.status_code, entered.headers["Location"]) == (303, "/pieces/tide-loader")
    cookie = entered.headers["Set-Cookie"]
    assert all(word in cookie for word in ("Secure", "HttpOnly", "SameSite=Lax", "Expires"))
    assert client.get("/api/pieces", headers=THERE).status_code == 200
    assert b"Sign out" in client.get("/sign-in", headers=THERE).data
    # Another page cannot sign anybody out, nor in.
    stranger = {**THERE, "Origin": "https://harbour.example"}
    assert client.post("/sign-in/out", headers=stranger).status_code == 403
    # Another process knows it too, and one with another secret does not.
    value = cookie.split(";")[0].partition("=")[2]
    for access, status in ((BY_SECRET, 200), (Access(ORIGIN, f"{SECRET}!"), 401)):
        other = client_of(tmp_path, access)
        other.set_cookie("keen-ripple", value, domain=HOST)
        assert other.get("/api/pieces", headers=THERE).status_code == status
    assert client.post("/sign-in/out", headers=THERE).status_code == 303
    assert client.get("/api/pieces", headers=THERE).status_code == 401


def test_a_browser_signs_in_and_comes_to_where_it_was_going(browser, tmp_path: Path) -> None:
    # Its own port is in the name, so the server is there before the application.
    server = make_server("127.0.0.1", 0, Flask("nothing yet"), threaded=True)
    origin = f"http://localhost:{server.port}"
    server.app = create_app(tmp_path / "web.sqlite", Access(origin, SECRET))
    Thread(target=server.serve_forever, daemon=True).start()
    try:
        browser.get(f"{origin}/pieces/tide-loader")
        browser.find_element("name", "secret").send_keys("wrong", Keys.ENTER)
        wait(browser, lambda: "This is not the secret" in browser.find_element("tag name", "main").text)
        browser.find_element("name", "secret").send_keys(SECRET, Keys.ENTER)
        wait(browser, lambda: browser.current_url == f"{origin}/pieces/tide-loader")
        browser.get(f"{origin}/sign-in")
        browser.find_element("xpath", "//button[.='Sign out']").click()
        wait(browser, lambda: browser.find_elements("name", "secret"))
    finally:
        server.shutdown()


def wait(browser, condition: Callable[[], Any]) -> None:
    WebDriverWait(browser, 45, 0.03, ignored_exceptions=[WebDriverException]).until(lambda _: condition())


@pytest.mark.parametrize(
    "to", ["https://harbour.example/", "//harbour.example/", "/\\harbour.example", "/sign-in/out", ""]
)
def test_whoever_signs_in_stays_here(tmp_path: Path, to: str) -> None:
    client = client_of(tmp_path, BY_SECRET)
    entered = client.post("/sign-in", data={"secret": SECRET, "to": to}, headers=THERE)
    assert entered.headers["Location"] == "/"
    quoted = client.get("/sign-in", query_string={"to": '/"><script>'}, headers=THERE)
    assert b"<script>" not in quoted.data


@pytest.mark.parametrize("access", [BY_SECRET, BY_PROXY])
def test_a_link_needs_no_sign_in(tmp_path: Path, access: Access) -> None:
    client = client_of(tmp_path, access)
    headers = {**THERE, "X-Harbour-User": "pilot"}
    if access.secret:
        signed_in(client)
    client.post("/api/pieces", json={"document": piece(id="lamp", name="Lamp")}, headers=headers)
    token = client.post("/api/pieces/lamp/link", headers=headers).get_json()["token"]
    anybody = client_of(tmp_path, access)
    assert anybody.get(f"/p/{token}", headers=THERE).status_code == 200
    assert anybody.get("/api/pieces/lamp", headers=THERE).status_code == 401


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["--origin", ORIGIN], "people have to sign in"),
        (["--origin", ORIGIN, "--user-header", "X-User", "--secret-file", "SECRET"], "in one way"),
        (["--user-header", "X-User"], "for this machine alone"),
        (["--origin", "http://ripple.quay-nine.example", "--secret-file", "SECRET"], "keeps a sign-in to itself"),
        (["--origin", f"{ORIGIN}/ripple", "--secret-file", "SECRET"], "is no origin"),
        (["--origin", "https://", "--secret-file", "SECRET"], "is no origin"),
        (["--origin", ORIGIN, "--secret-file", "no-such-file"], "cannot be read"),
        (["--origin", ORIGIN, "--secret-file", "SHORT"], "holds no secret"),
    ],
)
def test_it_does_not_start_for_anybody(
    tmp_path: Path, secret_file: Path, capsys, arguments: list[str], said: str
) -> None:
    short = tmp_path / "short"
    short.write_text("harbour", "utf-8")
    files = {"SECRET": str(secret_file), "SHORT": str(short)}
    database = tmp_path / "web.sqlite"
    assert main(["serve", "--db", str(database), *(files.get(each, each) for each in arguments)]) == 1
    assert said in capsys.readouterr().err and not database.exists()


def test_what_is_asked_for_is_taken_as_browsers_write_it(secret_file: Path) -> None:
    assert access_of("https://Ripple.Quay-Nine.example/", secret_file, None) == BY_SECRET
    assert access_of("http://localhost:8443", secret_file, None).origin == "http://localhost:8443"
    assert access_of(None, None, None) is HERE
    with pytest.raises(Fault, match="no origin"):
        access_of("https://pilot@ripple.quay-nine.example", secret_file, None)
