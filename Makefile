# Every target sets up what it needs on a fresh machine: Python 3.11 and Debian are enough.
PYTHON ?= $(shell command -v python3.11 || command -v python3)
PREPARE = $(PYTHON) tools/prepare.py
RUN = .venv/bin/python
PORT ?= 8000

.PHONY: demo demo-devices serve backup wheel test test-deep fmt build bench torture mutants screenshots contract lock

demo: ## start the app with the demo household
	@$(PREPARE) app
	@YPERON_DEMO=1 YPERON_DATABASE=var/demo.sqlite3 $(RUN) manage.py serve --port $(PORT) $(if $(LAN),--lan)

demo-devices: ## the demo with made-up devices that report, time running SPEED times as fast (60)
	@$(PREPARE) app
	@$(RUN) -m standins.house --port $(PORT) --speed $(or $(SPEED),60)

serve: ## start the app with your own household
	@$(PREPARE) app
	@$(RUN) manage.py serve --port $(PORT) $(if $(LAN),--lan)

test: ## all checks: lint, types, import rules, contract, tests of core, server and screens
	@$(PREPARE) test
	@$(RUN) tools/check.py

test-deep: ## all tests with many more random examples, and on the screens every first answer to a write lost
	@$(PREPARE) test
	@YPERON_EFFORT=deep DJANGO_ALLOW_ASYNC_UNSAFE=true $(RUN) manage.py test tests --noinput

backup: ## copy everything, also while the app runs; the copies are kept in var/backups
	@$(PREPARE) app
	@$(RUN) manage.py backup

fmt: ## format everything
	@$(PREPARE) dev
	@$(RUN) -m ruff check --fix --quiet . ; $(RUN) -m ruff format --quiet .
	@$(RUN) tools/npm.py run fmt

build: ## build the front end
	@$(PREPARE) app

wheel: ## a package to be installed for good, with the built front end: dist/*.whl
	@$(PREPARE) app
	@$(RUN) -m pip --quiet wheel . --no-deps --wheel-dir dist

contract: ## write docs/openapi.json and the types made from it anew
	@$(PREPARE) dev
	@$(RUN) manage.py export_openapi_schema --api server.config.api.api --indent 2 --output docs/openapi.json
	@$(RUN) tools/npm.py run --silent types
	@$(RUN) tools/web_bounds.py
	@$(RUN) tools/formats.py

bench: ## measure
	@$(PREPARE) test
	@$(RUN) -m benchmarks

torture: ## any request there is, a pulled plug, everybody at once
	@$(PREPARE) test
	@$(RUN) -m benchmarks.torture

mutants: ## change one token of the core at random, 300 times, and tell which changes no test notices
	@$(PREPARE) dev
	@$(RUN) tools/mutants.py

screenshots: ## make docs/screenshots anew from the demo household
	@$(PREPARE) test
	@$(RUN) tools/screenshots.py

lock: ## write the lock files anew (needs uv)
	uv export -q --no-dev --format requirements.txt --no-emit-project --no-header -o requirements.lock
	uv export -q --format requirements.txt --no-emit-project --no-header -o requirements-dev.lock
	rm -f uv.lock
