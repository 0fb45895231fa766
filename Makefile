# Two commands do everything on a fresh machine: `make demo` and `make test`.
#   make demo [PORT=8090] [DB=quay-nine.sqlite]
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
.DEFAULT_GOAL := help
.PHONY: help setup demo test lint bench cross-check types lock wheel

PORT ?= 8090
DB ?= quay-nine.sqlite
PY := .venv/bin/python
PAGE := src/keen_ripple/web/dist/index.html
SOURCES := $(shell find frontend/src -type f) frontend/index.html frontend/vite.config.ts frontend/vite.live.config.ts $(wildcard src/keen_ripple/fonts/*)
PIP := $(PY) -m pip --quiet --disable-pip-version-check install

help:
	@echo "make demo   set up, load Quay Nine and serve it (PORT=…, DB=…)"
	@echo "make test   set up, Chromium and Redis included; run linters, type checks and all tests"
	@echo "make bench  the benchmarks, as ratios to a peer"
	@echo "make cross-check  files of the demo by validators of others, and in Chromium, Firefox and WebKit against the core"
	@echo "make wheel  one file to install without Node, and in dist/ all that it needs"
	@echo "make setup  set up what the application needs, and build the page"

setup: .setup/runtime .setup/drawing $(PAGE)

demo: setup
	@.venv/bin/keen-ripple demo --db "$(DB)" --port $(PORT)

test: .setup/dev .setup/drawing .setup/chromium .setup/redis .setup/wheels $(PAGE) lint
	@echo "· front end tests"
	@cd frontend && npm run --silent test
	@echo "· all other tests"
	@$(PY) -m pytest -n 2 --dist loadgroup --durations=15 --durations-min=2

# The application with the built page inside, beside the packages that it needs: no network is needed to install them.
wheel: setup .setup/wheels
	@mkdir -p dist && cp -u .setup/wheels/*.whl dist/
	@rm -rf build dist/keen_ripple-*.whl
	@$(PY) -m pip wheel --quiet --disable-pip-version-check --no-deps --no-build-isolation --wheel-dir dist .
	@rm -rf build
	@echo "python3 -m pip install --no-index --find-links dist keen-ripple"

lint: .setup/dev .setup/node
	@echo "· linters and type checks"
	@$(PY) -m ruff format --check --quiet src tests scripts benchmarks || { echo "Run: .venv/bin/ruff format src tests scripts benchmarks"; exit 1; }
	@$(PY) -m ruff check --quiet src tests scripts benchmarks
	@$(PY) -m mypy --no-error-summary
	@cd frontend && npm run --silent types && npm run --silent lint

bench: .setup/dev .setup/drawing .setup/chromium $(PAGE)
	@$(PY) -m pytest benchmarks --benchmark-enable --benchmark-disable-gc -s

# Not part of the tests: three browsers are a lot to install.
cross-check: setup .setup/dev .setup/chromium .setup/browsers .setup/judges
	@$(PY) scripts/judged.py
	@$(PY) scripts/cross_check.py

.setup/judges: scripts/judges/package-lock.json
	@echo "· validators and parsers of others"
	@cd scripts/judges && npm ci --no-audit --no-fund --loglevel=error
	@mkdir -p .setup && touch $@

.setup/browsers:
	@echo "· Firefox and WebKit"
	@command -v apt-get >/dev/null && [ "$$(id -u)" = 0 ] || { echo "Install Debian's firefox-esr, webkit2gtk-driver and xvfb as root, then try again."; exit 1; }
	@apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends firefox-esr webkit2gtk-driver xvfb xauth >/dev/null
	@mkdir -p .setup && touch $@

types: .setup/runtime .setup/node
	@$(PY) scripts/generate_types.py

# New versions into the lock files; needs pip-tools.
lock:
	cd requirements && for name in runtime dev; do CUSTOM_COMPILE_COMMAND="make lock" pip-compile --quiet --generate-hashes --allow-unsafe --strip-extras --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --output-file $$name.txt $$name.in; done

.venv/bin/python:
	@command -v python3 >/dev/null || { echo "Python 3.11 or newer is needed: install it, then try again."; exit 1; }
	@python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { echo "Python 3.11 or newer is needed; python3 is $$(python3 -V)."; exit 1; }
	@echo "· Python environment"
	@python3 -m venv .venv || { echo "python3 cannot make environments: install its venv module (python3-venv), then try again."; exit 1; }

.setup/runtime: requirements/runtime.txt pyproject.toml | .venv/bin/python
	@echo "· Python packages"
	@$(PIP) --require-hashes -r requirements/runtime.txt || { echo "The packages could not be installed: is a package index reachable?"; exit 1; }
	@$(PIP) --no-deps --no-build-isolation --editable .
	@mkdir -p .setup && touch $@

.setup/dev: requirements/dev.txt .setup/runtime
	@echo "· Python packages for tests"
	@$(PIP) --require-hashes -r requirements/dev.txt || { echo "The packages could not be installed: is a package index reachable?"; exit 1; }
	@mkdir -p .setup && touch $@

.setup/wheels: requirements/runtime.txt .setup/runtime
	@echo "· Python packages to install elsewhere"
	@$(PY) -m pip wheel --quiet --disable-pip-version-check --require-hashes -r requirements/runtime.txt --wheel-dir $@ || { echo "The packages could not be fetched: is a package index reachable?"; exit 1; }
	@touch $@

.setup/node: frontend/package-lock.json
	@command -v npm >/dev/null || { echo "Node 20 or newer with npm is needed to build the page: install it, then try again."; exit 1; }
	@echo "· front end packages"
	@cd frontend && npm ci --no-audit --no-fund --loglevel=error
	@mkdir -p .setup && touch $@

$(PAGE): .setup/node $(SOURCES)
	@echo "· building the page"
	@cd frontend && npm run --silent build
	@touch $@

# The drawing library is linked to these two, even where it draws without a screen.
.setup/drawing: .setup/runtime
	@$(PY) -c "import skia" 2>/dev/null || { \
		echo "· Libraries for drawing"; \
		command -v apt-get >/dev/null && [ "$$(id -u)" = 0 ] || { echo "Drawing needs libEGL and libGL: install Debian's libegl1 and libgl1 as root, then try again."; exit 1; }; \
		apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends libegl1 libgl1 >/dev/null; }
	@$(PY) -c "import skia"
	@touch $@

.setup/redis:
	@command -v redis-server >/dev/null || { \
		echo "· Redis"; \
		command -v apt-get >/dev/null && [ "$$(id -u)" = 0 ] || { echo "Tests need redis-server on the PATH: install Debian's redis-server as root, then try again."; exit 1; }; \
		apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends redis-server >/dev/null; }
	@mkdir -p .setup && touch $@

.setup/chromium:
	@command -v chromium >/dev/null && command -v chromedriver >/dev/null || { \
		echo "· Chromium and its driver"; \
		command -v apt-get >/dev/null && [ "$$(id -u)" = 0 ] || { echo "Tests need chromium and chromedriver on the PATH: install Debian's chromium and chromium-driver as root, then try again."; exit 1; }; \
		apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium chromium-driver >/dev/null; }
	@mkdir -p .setup && touch $@
