"""What leaves, in a view of its own: chosen, looked at as it is, made smaller, and taken away."""

from __future__ import annotations

import io
import json
import zipfile
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread

import pytest
from PIL import Image
from selenium.webdriver import Keys
from test_building import add, begin, choose, give


def moving(bench, width: int = 120, height: int = 60) -> None:
    """From an empty piece: a mark that goes across and back."""
    begin(bench, "Buoy light", width, height)
    mark = add(bench, "ellipse", "Mark", width=20, height=20, x=10, y=20, fill="#d9503a")
    choose(bench, mark)
    bench.press("+ state")
    give(bench, x=90)


def chosen(bench, title: str) -> None:
    bench.button(title).click()
    bench.wait(lambda: bench.one(".format[aria-current]").text.startswith(title), f"{title} chosen")


def size_of_picture(bench) -> list[int]:
    asked = """const i = document.querySelector('.handed img');
    const c = document.querySelector('.handed canvas[data-frame]');
    return i?.complete ? [i.naturalWidth, i.naturalHeight] : c ? [c.width, c.height] : []"""
    return bench.browser.execute_script(asked)


def asked_for(bench, option: str) -> bool:
    return bench.browser.execute_script(
        "return performance.getEntriesByType('resource').some(({ name }) => name.includes(arguments[0]))", option
    )


def test_a_piece_leaves_as_pictures_and_as_text(bench, tmp_path: Path) -> None:
    moving(bench)
    bench.button("Hand off").click()
    # The first is the page itself, in a frame.
    frame = bench.wait(lambda: bench.one(".handed iframe"), "the page")
    assert frame.get_attribute("src").split("?")[0].endswith("/handoff/html/html")
    assert frame.get_attribute("sandbox") == "allow-scripts"
    bench.browser.switch_to.frame(frame)
    bench.wait(lambda: bench.all("[data-layer=ellipse]"), "its layer")
    bench.browser.switch_to.default_content()

    bench.wait(lambda: "At most 0.0" in bench.one("[aria-label=Measured]").text, "how far it is off")

    chosen(bench, "GIF")
    bench.wait(lambda: size_of_picture(bench) == [120, 60], "the GIF")
    assert "25 pictures a second of 120 × 60 px" in bench.one(".told").text
    assert "Half transparency" in bench.one(".told").text
    bench.fill(bench.field("scale"), "2")
    bench.wait(lambda: size_of_picture(bench) == [240, 120], "a larger GIF")
    # On a background nothing is half transparent; what is no colour is said, and what was typed stays.
    bench.fill(bench.field("background"), "#ffffff")
    bench.wait(lambda: "Half transparency" not in bench.one(".told").text, "a background")
    bench.one(".told .ant-checkbox-input").click()
    bench.wait(lambda: asked_for(bench, "/gif?scale=2&ground=%23ffffff&dither=1"), "dots")
    bench.fill(bench.field("background"), "fogg")
    bench.wait(lambda: "'fogg' is not a colour" in bench.one(".told").text, "what is no colour")
    assert bench.field("background").get_attribute("value") == "fogg"
    bench.fill(bench.field("background"), "#fff")
    bench.wait(lambda: size_of_picture(bench) == [240, 120], "it again")
    # What it cannot say is said before it is taken, and what was typed stays.
    bench.fill(bench.field("pictures per second"), "60")
    bench.wait(lambda: "Choose at most 50 per second" in bench.one(".told").text, "what is refused")
    assert bench.one(".told .ant-btn-primary").get_attribute("href") is None
    assert bench.field("pictures per second").get_attribute("value") == "60"
    bench.fill(bench.field("pictures per second"), "10")
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)})
    file = tmp_path / "buoy-light.gif"
    bench.wait(lambda: "10 pictures a second" in bench.one(".told").text, "the new rate")
    bench.button("Download buoy-light.gif").click()
    bench.wait(lambda: file.exists() and file.read_bytes()[-1:] == b";", "the file")
    assert Image.open(io.BytesIO(file.read_bytes())).size == (240, 120)

    chosen(bench, "Still picture")
    bench.wait(lambda: size_of_picture(bench) == [240, 120], "a picture of the same scale")
    bench.one(".told .ant-checkbox-input").click()
    bench.fill(bench.field("moment"), "120")
    bench.wait(lambda: "the moment 120 ms" in bench.one(".told").text, "another moment")
    assert "at=120" in bench.one(".handed img").get_attribute("src")

    # By keys, to a text; what was chosen of pictures is not asked of it.
    bench.one(".format[aria-current]").send_keys(Keys.TAB)
    bench.button("Design tokens").send_keys(Keys.ENTER)
    bench.wait(lambda: bench.all(".handed pre [data-kind='string']"), "its colours")
    tokens = bench.wait(lambda: bench.one(".handed pre").text, "the text")
    assert "state-1-to-state-2" in json.dumps(json.loads(tokens)) or "$type" in tokens
    chosen(bench, "Timing sheet")
    bench.one(".handed label:nth-child(3), .handed .ant-segmented-item:nth-child(3)").click()
    bench.wait(lambda: bench.one(".handed pre").text.startswith("# Buoy light"), "the Markdown")
    assert bench.errors() == []


def test_a_video_and_a_sprite_sheet_are_seen(bench) -> None:
    moving(bench)
    bench.button("Hand off").click()
    chosen(bench, "Video")
    film = bench.wait(lambda: bench.one(".handed figure canvas"), "the film")
    bench.wait(lambda: (film.get_property("width"), film.get_property("height")) == (120, 60), "its pictures")
    chosen(bench, "Sprite sheet")
    bench.wait(lambda: size_of_picture(bench) and size_of_picture(bench)[0] % 120 == 0, "the sheet")
    assert bench.button("Download buoy-light.sprite.zip").is_displayed()


def test_what_takes_long_says_how_long_and_is_stopped(bench, tmp_path: Path) -> None:
    moving(bench, 300, 150)
    bench.button("Hand off").click()
    chosen(bench, "Animated WebP")
    bench.wait(lambda: size_of_picture(bench) == [300, 150], "the small one")
    assert bench.one(".handed header").text.endswith("kB")
    bench.fill(bench.field("pictures per second"), "60")
    bench.fill(bench.field("scale"), "8")
    bench.wait(lambda: "left" in bench.one(".handed").text, "how long it takes")
    assert 0 < int(bench.one(".handed [role=progressbar]").get_attribute("aria-valuenow")) < 100
    # The server goes and comes back: it goes on.
    bench.served.stop()
    bench.wait(lambda: "does not answer" in bench.one(".handed").text, "that it is away")
    bench.served.start(bench.served.port)
    bench.wait(lambda: "left" in bench.one(".handed").text, "that it goes on")
    bench.button("Stop").click()
    bench.wait(lambda: "Stopped." in bench.one(".handed").text, "its end")
    # Wanted in another way it is made; what was stopped stays so until it is asked for.
    bench.fill(bench.field("scale"), "2")
    bench.wait(lambda: size_of_picture(bench) == [600, 300], "a smaller one")
    bench.fill(bench.field("scale"), "8")
    bench.wait(lambda: "Stopped." in bench.one(".handed").text, "what was stopped")
    bench.button("Make it").click()
    bench.wait(lambda: bench.all(".handed [role=progressbar]"), "that it is made again")
    bench.button("Stop").click()
    bench.wait(lambda: "Stopped." in bench.one(".handed").text, "its end")

    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)})
    bench.button("All as zip").click()
    bench.wait(lambda: zipfile.is_zipfile(tmp_path / "buoy-light.zip"), "all formats")
    assert len(zipfile.ZipFile(tmp_path / "buoy-light.zip").namelist()) >= 20
    assert bench.errors() == []


def seen_at(bench, ms: int) -> list[list[int]]:
    """Where the mark is on the stage and in the file, when both are held at that moment: by their colours."""
    slider = bench.one(".beside [role=slider]")
    now = int(slider.get_attribute("aria-valuenow"))
    for _ in range(abs(ms - now) // 100):
        slider.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT if ms > now else Keys.ARROW_LEFT)
    assert slider.get_attribute("aria-valuenow") == str(ms)
    return [marks(bench, figure) for figure in bench.all(".beside figure")]


def marks(bench, figure) -> list[int]:
    """The columns of a figure in which the mark is seen, first and last, from the piece's left."""
    image = Image.open(io.BytesIO(figure.screenshot_as_png)).convert("RGB")
    red = [x for x in range(image.width) if any(is_red(image.getpixel((x, y))) for y in range(0, image.height, 3))]
    middle = (image.width - 120) // 2
    return [red[0] - middle, red[-1] - middle] if red else []


def is_red(colour) -> bool:
    return colour[0] > 180 and colour[1] < 120


@pytest.mark.parametrize("title", ["Web page", "SVG", "Video", "GIF", "Animated WebP", "Animated PNG", "Lottie"])
def test_stage_and_file_are_held_at_the_same_moment(bench, title: str) -> None:
    moving(bench)
    bench.button("Hand off").click()
    chosen(bench, title)
    bench.wait(lambda: bench.all(".beside figure"), "both")
    bench.button("Pause").click()
    bench.one(".beside [role=slider]").send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
    length = int(bench.one(".beside [role=slider]").get_attribute("aria-valuemax"))
    # A picture stands for as long as 40 ms, in which the mark goes a few px.
    where, most = [], 2 if title in ("Web page", "SVG", "Lottie") else 14
    for _ in range(40):
        bench.one(".beside [role=slider]").send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
    for ms in (0, length // 400 * 100, length // 200 * 100):

        def together(ms: int = ms) -> list[int]:
            stage, file = seen_at(bench, ms)
            return stage if file and max(abs(a - b) for a, b in zip(stage, file, strict=True)) <= most else []

        where.append(bench.wait(together, f"both at {ms} ms"))
    assert len({place[0] for place in where}) > 1


def test_what_follows_scrolling_is_not_held_by_time(bench) -> None:
    bench.open("/pieces/pier-story")
    bench.button("Hand off").click()
    frame = bench.wait(lambda: bench.all(".beside iframe"), "the page")[0]
    bench.browser.switch_to.frame(frame)
    states = """const all = document.getAnimations();
    return [...new Set(all.map(({ timeline, playState }) => `${timeline.constructor.name} ${playState}`))].sort()"""
    held = ["DocumentTimeline paused", "ViewTimeline running"]
    bench.wait(lambda: bench.browser.execute_script(states) == held, "time held, scrolling not")
    bench.browser.switch_to.default_content()


def test_a_lottie_file_plays_with_the_picture_in_it(bench) -> None:
    bench.open("/pieces/pier-card")
    bench.button("Hand off").click()
    chosen(bench, "Lottie")
    shown = bench.wait(lambda: bench.one(".handed [role=img] image"), "its picture")
    assert shown.get_attribute("href").startswith("data:image/png;base64,")
    seen = "return document.querySelector('.handed [role=img] svg').innerHTML"
    before = bench.browser.execute_script(seen)
    bench.wait(lambda: bench.browser.execute_script(seen) != before, "that it plays")
    assert bench.errors() == []


@pytest.fixture
def elsewhere(tmp_path: Path):
    """The address of a page of somebody else, whose file is to be written."""
    handler = partial(SimpleHTTPRequestHandler, directory=str(tmp_path))
    with ThreadingHTTPServer(("127.0.0.1", 0), handler) as server:
        Thread(target=server.serve_forever, daemon=True).start()
        yield f"http://127.0.0.1:{server.server_port}/page.html"
        server.shutdown()


def test_a_link_shows_the_piece_anywhere_until_it_is_taken_back(bench, tmp_path: Path, elsewhere: str) -> None:
    moving(bench)
    bench.button("Hand off").click()
    chosen(bench, "Live page")
    bench.button("Make a link").click()
    bench.wait(lambda: len(bench.all(".line-to-copy code")) == 2, "its address")
    address, frame = (line.text for line in bench.all(".line-to-copy code"))
    assert "/p/" in address and frame.startswith(f'<iframe src="{address}" title="Buoy light" width="120" height="60"')
    # In a page of somebody else it plays; the application itself cannot be framed there.
    application = f'<iframe src="{address.split("/p/")[0]}/"></iframe>'
    (tmp_path / "page.html").write_text(f"{frame}{application}", "utf-8")
    bench.browser.switch_to.new_window("tab")
    bench.browser.get(elsewhere)
    theirs, ours = bench.browser.find_elements("tag name", "iframe")
    bench.browser.switch_to.frame(theirs)
    bench.wait(lambda: bench.all("[data-layer=ellipse]"), "its layer")
    bench.browser.switch_to.default_content()
    bench.browser.switch_to.frame(ours)
    assert not bench.all("#root")
    bench.browser.switch_to.default_content()
    assert "frame-ancestors 'none'" in bench.errors()[0]
    bench.browser.close()
    bench.browser.switch_to.window(bench.browser.window_handles[0])
    bench.button("Take the link back").click()
    bench.wait(lambda: not bench.all(".line-to-copy"), "no address")
    bench.browser.get(address)
    assert "taken back" in bench.one("body").text
