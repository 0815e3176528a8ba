# make demo and make test set up all they need on a fresh Debian 12 machine with Python and Node.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
# uv takes a sixth of pip's time. Where it finds nothing, as behind a mirror that only pip knows of, pip does it.
define install
$(BIN)/uv pip install --quiet --python $(BIN)/python $(1) || \
	($(BIN)/python -m ensurepip > /dev/null && $(BIN)/python -m pip install --quiet --no-compile $(1))
endef
WEB_SOURCES := web/openapi.json $(shell find web/src web/public -type f -not -name schema.d.ts -not -name table.json) web/index.html web/vite.config.ts web/tsconfig.json web/units.mjs
PORT ?= 8750

# What was compiled once is not compiled again at every start.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: setup demo serve check test test-web test-quick collected prove mutants bench beside screenshots lint lint-python lint-web lock clean

# Python's packages and the web's come at the same time, and are looked at at the same time.
MAKEFLAGS += --jobs=2

setup: .setup-run src/evtro/web/index.html

.setup-run: requirements.lock pyproject.toml
	test -d $(VENV) || $(PYTHON) -m venv --without-pip $(VENV)
	test -x $(BIN)/uv || $(PYTHON) -m pip --python $(BIN)/python install -qq uv || \
	  ($(BIN)/python -m ensurepip > /dev/null && $(BIN)/python -m pip install --quiet uv)
	$(call install,-r requirements.lock)
	$(call install,--no-deps -e .)
	touch $@

.setup-dev: requirements-dev.lock requirements-reference.lock .setup-run
	$(call install,-r requirements-dev.lock)
	$(call install,--no-deps -r requirements-reference.lock)  # its tools are not wanted
	test -x /usr/bin/chromium-headless-shell -a -x /usr/bin/certutil || (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium-headless-shell libnss3-tools)
	touch $@

.setup-web: web/package-lock.json
	cd web && npm install --no-save --no-audit --no-fund --loglevel=error
	touch $@

# What the service says of itself; touched only where it says something else, so that a change of
# the core builds no pages.
.setup-api: .setup-run $(shell find src/evtro -name '*.py' -o -name '*.toml')
	$(BIN)/evtro openapi > web/openapi.new
	cmp -s web/openapi.new web/openapi.json && rm web/openapi.new || mv web/openapi.new web/openapi.json
	touch $@

web/openapi.json: .setup-api ;

src/evtro/web/index.html: .setup-web $(WEB_SOURCES)
	cd web && npm run build --silent

demo: setup
	$(BIN)/evtro demo --port $(PORT)

serve: setup
	$(BIN)/evtro serve --port $(PORT)

lint: lint-python lint-web

lint-python: .setup-dev
	$(BIN)/ruff check src tests benchmarks docs tools
	$(BIN)/ruff format --check src tests benchmarks docs tools
	$(BIN)/mypy
	$(BIN)/lint-imports --no-logo > .lint-imports 2>&1 || (cat .lint-imports; exit 1)

lint-web: src/evtro/web/index.html
	cd web && npm run lint --silent

# What one runs all day: lint, types, and every test that needs no browser and no long walk.
check: lint test-web test-quick

test-quick: .setup-dev src/evtro/web/index.html
	$(BIN)/python -m pytest -n 3 --dist worksteal tests/house tests/core tests/formats tests/store tests/service -m "not long"

test: lint test-web collected
	$(BIN)/python -m pytest -n 3 --dist worksteal

test-web: src/evtro/web/index.html
	cd web && npm test --silent

# Every worker would compile all tests for itself; here it is done once, beside the types.
collected: .setup-dev
	$(BIN)/python -m pytest --collect-only -q > .collected 2>&1 || (tail -40 .collected; exit 1)

# The large counts: every property with all of its cases, and kills, random calls, many hands, a full disk and
# bombs at full size. An hour and more.
prove: setup .setup-dev
	EVTRO_PROVE=1 $(BIN)/python -m pytest -n 2 --dist worksteal tests/core tests/store tests/service tests/formats tests/browser/test_every_field.py
	$(BIN)/python -m tests.hammer

# A hundred changes of the numeric modules, one at a time: which of them the tests notice.
mutants: setup .setup-dev
	$(BIN)/python tools/mutants.py

bench: setup .setup-dev
	$(BIN)/python benchmarks/run.py

# The client's speed beside that of another commit, in turns: make beside COMMIT=HEAD~20
beside: setup .setup-dev
	$(BIN)/python benchmarks/beside.py $(COMMIT)

screenshots: setup .setup-dev
	$(BIN)/python docs/screenshots/make.py

lock: .setup-run
	$(BIN)/uv pip compile --quiet --generate-hashes pyproject.toml -o requirements.lock
	$(BIN)/uv pip compile --quiet --generate-hashes --extra dev pyproject.toml -o requirements-dev.lock
	echo "pycraf==2.1.0" | $(BIN)/uv pip compile --quiet --no-deps --generate-hashes - -o requirements-reference.lock

clean:
	rm -rf $(VENV) web/node_modules src/evtro/web .setup-run .setup-dev .setup-web .setup-api .collected
