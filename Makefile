# Salt Tide. Each target works on a fresh machine; stamp files make the second run quick.
.PHONY: demo serve test check bench lock client docs pictures clean
.DEFAULT_GOAL := demo
SHELL := /bin/bash
# The program keeps its bytecode also where the machine says not to: without it a start takes half as long again.
export PYTHONDONTWRITEBYTECODE :=

PY := .venv/bin/python
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.js web/licences.js

demo: .venv/run.stamp web/dist/build.stamp
	@exec $(PY) -m salttide demo

serve: .venv/run.stamp web/dist/build.stamp
	@exec $(PY) -m salttide serve

test: .venv/dev.stamp web/dist/build.stamp build/chromium.stamp
	@exec $(PY) -W error::ResourceWarning -m tests

check: .venv/dev.stamp web/node_modules/install.stamp
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	$(MAKE) --no-print-directory client
	.venv/bin/openapi-spec-validator --subschema-errors all build/openapi.json
	git diff --exit-code --stat -- web/src/api/schema.d.ts || (echo "The web client is stale: run 'make client' and commit it."; exit 1)
	cd web && npm run --silent types && npm run --silent lint && npm run --silent format

bench: .venv/dev.stamp web/dist/build.stamp
	@exec $(PY) -m tests.bench

client: .venv/run.stamp web/node_modules/install.stamp
	@mkdir -p build
	@$(PY) -m salttide openapi > build/openapi.json
	@cd web && npm run --silent client >/dev/null

docs: .venv/dev.stamp
	@$(PY) -m tests.core_index

pictures: .venv/dev.stamp web/dist/build.stamp build/chromium.stamp
	@exec $(PY) -m tests.web.pictures

# Only this target needs uv. The lock files hold versions and hashes, and no address.
lock:
	uv pip compile --universal --python-version 3.11 --generate-hashes --no-annotate --no-header -q requirements.in -o requirements.txt
	uv pip compile --universal --python-version 3.11 --generate-hashes --no-annotate --no-header -q requirements-dev.in -o requirements-dev.txt

.venv/made.stamp:
	python3.11 -m venv .venv
	@touch $@

.venv/run.stamp: requirements.txt .venv/made.stamp
	.venv/bin/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.txt
	@touch $@

.venv/dev.stamp: requirements-dev.txt .venv/run.stamp
	.venv/bin/pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.txt
	@touch $@

web/node_modules/install.stamp: web/package.json web/package-lock.json
	cd web && npm ci --silent --no-audit --no-fund
	@touch $@

web/dist/build.stamp: web/node_modules/install.stamp $(WEB_SOURCES)
	cd web && npm run --silent build
	@touch $@

build/chromium.stamp:
	@mkdir -p build
	@bash tests/chromium.sh
	@touch $@

clean:
	rm -rf build web/dist .mypy_cache .ruff_cache
