# Plucky Gecko. `make demo` and `make test` set up everything they need on a fresh Debian machine with Python 3.11 and Node 20.
SHELL := /bin/bash
PORT ?= 8000
PY := .venv/bin/python
LOCK = .venv/bin/pip-compile -q --upgrade --generate-hashes --strip-extras --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-header
# Compiled once for all that runs here, by what it was compiled from.
export GECKO_COMPILED ?= $(CURDIR)/var/compiled
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/service-worker.ts web/vite.config.ts web/tsconfig.json

.PHONY: demo run backup restore test lint types format bench recorded mutants soak screenshots api-types check-api build setup lock password clean

.venv/.ready: requirements-dev.txt
	python3 -m venv .venv
	$(PY) -m pip install -q --disable-pip-version-check --no-deps -r requirements-dev.txt
	touch $@

web/node_modules/.ready: web/package-lock.json
	cd web && npm ci --ignore-scripts --no-audit --no-fund --loglevel=error
	touch $@

web/dist/.ready: web/node_modules/.ready .venv/.ready $(WEB_SOURCES)
	cd web && npx --no-install vite build --logLevel warn
	$(PY) -m whitenoise.compress -q web/dist
	touch $@

/usr/bin/chromium:
	apt-get update -q
	apt-get install -y -q --no-install-recommends chromium

setup: .venv/.ready web/node_modules/.ready
build: web/dist/.ready

# The demo garage on this machine only, its user signed in.
demo: web/dist/.ready
	$(PY) -m gecko warm
	GECKO_DEMO=1 GECKO_VAR=var/demo $(PY) manage.py migrate -v 0
	GECKO_DEMO=1 GECKO_VAR=var/demo $(PY) manage.py load_demo
	GECKO_DEMO=1 GECKO_VAR=var/demo $(PY) manage.py serve --port $(PORT)

# For real use: an empty database, the first visit makes the account. LAN=1 lets the phone in the garage reach it.
run: web/dist/.ready
	$(PY) -m gecko warm
	$(PY) manage.py migrate -v 0
ifeq ($(LAN),1)
	GECKO_HOST=0.0.0.0 GECKO_LAN_CODE=$$($(PY) -c 'import secrets; print(secrets.randbelow(900000) + 100000)') $(PY) manage.py serve --port $(PORT)
else
	$(PY) manage.py serve --port $(PORT)
endif

# A checked copy while the server runs, and one put back: make restore FILE=var/backups/...
backup: .venv/.ready
	$(PY) manage.py backup

restore: .venv/.ready
	$(PY) manage.py restore $(FILE)

# A forgotten password: make password USER=name
password: .venv/.ready
	$(PY) manage.py changepassword $(USER)

# The page's tests run beside the others; browsers, one at a time, beside a worker with the rest.
test: web/dist/.ready | /usr/bin/chromium
	$(PY) -m gecko warm
	@mkdir -p var
	(cd web && npx --no-install vitest run --silent --maxWorkers=1) > var/page-tests.txt 2>&1 & page=$$!; \
	$(PY) -W error::DeprecationWarning:gecko -W error::DeprecationWarning:server manage.py test gecko server e2e --parallel 2; others=$$?; \
	wait $$page; of_page=$$?; cat var/page-tests.txt; exit $$((others + of_page))

lint: setup
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/lint-imports
	cd web && npx --no-install biome check . && npx --no-install depcruise src
	cd web && node guard.mjs
	$(PY) tools/check_web.py
	$(PY) tools/licences.py --check

types: setup
	.venv/bin/mypy
	cd web && npx --no-install tsc --noEmit -p tsconfig.json

format: setup
	.venv/bin/ruff check --fix .
	.venv/bin/ruff format .
	cd web && npx --no-install biome check --write .

# The web's types are made from the API; both files are committed.
api-types: setup
	$(PY) manage.py openapi
	cd web && npm run -s generate

check-api: setup
	$(PY) manage.py openapi --check
	cd web && npx --no-install openapi-typescript ../server/openapi.json -o /tmp/gecko-schema.d.ts > /dev/null && diff -q /tmp/gecko-schema.d.ts src/api/schema.d.ts

# Random machines of which the tests try a few, all of them.
WHOLE = $(addprefix gecko.tests.test_,course_rides ranges_hold safe_by_construction hookup_wiring hookup_depth) server.tests.test_walks

bench: web/dist/.ready
	$(PY) tools/judged_rides.py
	GECKO_WHOLE=1 $(PY) manage.py test --parallel 2 $(WHOLE)
	$(PY) tools/bench.py

# Figures of some hundred machines as they are now; only after a change that is meant.
recorded: .venv/.ready
	$(PY) -m gecko.tests.recording

# Small changes to the core that no test notices; MUTANTS="--count 60 --only gecko/rules" for fewer.
mutants: .venv/.ready
	$(PY) tools/mutants.py $(MUTANTS)

# Long random walks through every door; SOAK_EVALUATED and SOAK_EVERY_DOOR say how long.
soak: .venv/.ready
	$(PY) tools/soak.py
	$(PY) tools/soak_server.py
	$(PY) manage.py test server.tests.test_faults

screenshots: web/dist/.ready | /usr/bin/chromium
	$(PY) tools/screenshots.py
	$(PY) tools/rooms.py

# Newer versions within the ranges of requirements*.in and package.json.
lock: setup
	$(LOCK) -o requirements-dev.txt requirements-dev.in
	# Packages that are part of every Python environment have no hash here and need none.
	sed -i '/^# WARNING: The following packages were not pinned/,$$d' requirements-dev.txt
	cp requirements-dev.txt requirements.txt
	$(subst --upgrade ,,$(LOCK)) -o requirements.txt requirements.in
	cd web && npm update --ignore-scripts --no-audit --no-fund

clean:
	rm -rf web/dist web/node_modules .venv
