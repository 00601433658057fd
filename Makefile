# `make demo` and `make test` are all a newcomer needs; each sets up what it uses.

PYTHON := .venv/bin/python
NPM := npm --prefix frontend
STAMPS := .stamps
XDG_DATA_HOME ?= $(HOME)/.local/share
DEMO_DATA ?= $(XDG_DATA_HOME)/bexi-demo

.PHONY: demo test slow docs servers machines browsers setup dev package try-package lint format screenshots bench schema clean

demo: setup
	BEXI_DATA="$(DEMO_DATA)" $(PYTHON) -m bexi.server.demo.run

test: setup $(STAMPS)/tools
	$(PYTHON) -m tests

servers: setup
	./install-servers
	BEXI_SERVERS=1 BEXI_DATA="$$(mktemp -d)" $(PYTHON) manage.py test tests.servers

machines: setup
	./install-machines
	BEXI_MACHINES=1 BEXI_DATA="$$(mktemp -d)" $(PYTHON) manage.py test tests.machines

# Hands and ears once more, on a machine a quarter as fast.
slow: setup $(STAMPS)/tools
	BEXI_SLOWED=4 $(PYTHON) -m tests tests.browser.test_kept tests.browser.test_heard

browsers: setup $(STAMPS)/tools
	./install-browsers
	BEXI_BROWSERS=1 BEXI_DATA="$$(mktemp -d)" $(PYTHON) manage.py test tests.browsers

setup: $(STAMPS)/python $(STAMPS)/resources $(STAMPS)/frontend $(STAMPS)/docs

dev: setup
	BEXI_DATA="$(DEMO_DATA)" BEXI_DEVELOPMENT=1 $(PYTHON) -m bexi.server.demo.run --development

lint: setup
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	.venv/bin/lint-imports
	$(NPM) run lint

format: setup
	.venv/bin/ruff check --fix .
	.venv/bin/ruff format .
	$(NPM) run format

schema: $(STAMPS)/python $(STAMPS)/packages
	$(PYTHON) manage.py export_openapi_schema --api bexi.server.api.api --indent 2 --output frontend/openapi.json
	$(NPM) run types

screenshots: setup $(STAMPS)/tools
	$(PYTHON) -m docs.screenshots.take

docs: $(STAMPS)/docs

bench: setup
	convert -version > /dev/null 2>&1 || apt-get install --yes --quiet imagemagick
	$(PYTHON) -m benchmarks

clean:
	rm -rf .venv .stamps .mypy_cache .ruff_cache .import_linter_cache .hypothesis frontend/node_modules frontend/dist bexi/resources/gathered

$(STAMPS)/python: requirements/development.txt requirements/runtime.in pyproject.toml
	python3 -c 'import sys; sys.exit(sys.version_info < (3, 11) and "Bexi needs Python 3.11 or later.")'
	python3 -m venv .venv
	.venv/bin/pip install --quiet --requirement requirements/development.txt
	.venv/bin/pip install --quiet --no-deps --editable .
	mkdir -p $(STAMPS) && touch $@

$(STAMPS)/packages: frontend/package-lock.json frontend/package.json
	$(NPM) ci --silent
	mkdir -p $(STAMPS) && touch $@

$(STAMPS)/resources: $(STAMPS)/python $(STAMPS)/packages bexi/resources/gather.py bexi/resources/generic.py bexi/resources/__init__.py
	$(PYTHON) -m bexi.resources.gather frontend/node_modules
	touch $@

package: setup
	rm -rf dist
	$(PYTHON) -m build --outdir dist

try-package: package
	BEXI_PACKAGE=1 BEXI_DATA="$$(mktemp -d)" $(PYTHON) manage.py test tests.package

$(STAMPS)/frontend: $(STAMPS)/python $(STAMPS)/packages $(shell find frontend/src frontend/public -type f) frontend/index.html frontend/vite.config.ts
	$(NPM) run --silent build
	$(PYTHON) -m whitenoise.compress --quiet frontend/dist
	touch $@

# Beside the front end, which the server sends: /docs/index.html.
$(STAMPS)/docs: $(STAMPS)/frontend $(STAMPS)/resources docs/make.py $(shell find docs/pages docs/theme docs/formats docs/screenshots -name "*.*" -type f -not -name "*.py*") docs/mkdocs.yml
	$(PYTHON) -m docs.make frontend/dist/docs
	touch $@

$(STAMPS)/tools: install-test-tools
	./install-test-tools
	mkdir -p $(STAMPS) && touch $@
