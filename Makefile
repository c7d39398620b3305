# Two commands do everything: `make demo` starts the application with demo data, `make test` runs every test.
# Both install what is missing. CARGO_TARGET_DIR is honoured throughout.

SHELL := /bin/bash
TARGET := $(or $(CARGO_TARGET_DIR),target)
DATA ?= demo-data
BIND ?= 127.0.0.1:7420
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)

.PHONY: demo test build web types bench bench-inside form lint lint-rust lint-pages lint-licences shots tools-for-tests node

demo: program
	$(TARGET)/release/vatman serve --demo --data $(DATA) --bind $(BIND)

build: program
	@echo "The program is $(TARGET)/release/vatman"

.PHONY: program
program: web
	cargo build --release -p vatman-server

# What is fetched and what is compiled before the tests do not wait for each other.
test:
	@$(MAKE) --no-print-directory --output-sync=target -j4 tools-for-tests web lint-rust lint-pages
	cargo test --workspace --lib --bins --tests --no-fail-fast

# The pages, built only when something of theirs is newer.
web: node web/dist/index.html

web/dist/index.html: web/node_modules/.package-lock.json web/index.html web/vite.config.ts web/tsconfig.json $(shell find web/src web/public -type f 2>/dev/null)
	cd web && npm run --silent build
	@touch $@

web/node_modules/.package-lock.json: web/package-lock.json web/package.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

node:
	@command -v npm >/dev/null || { $(SUDO) apt-get update -qq && $(SUDO) apt-get install -y -qq --no-install-recommends nodejs npm; }

# What only the tests need: a browser with its driver, and readers of our files that are not ours.
tools-for-tests: node
	@missing=""; \
	command -v chromium >/dev/null || missing="$$missing chromium"; \
	command -v chromedriver >/dev/null || missing="$$missing chromium-driver"; \
	command -v pdftotext >/dev/null || missing="$$missing poppler-utils"; \
	command -v qpdf >/dev/null || missing="$$missing qpdf"; \
	command -v rsvg-convert >/dev/null || missing="$$missing librsvg2-bin"; \
	command -v mutool >/dev/null || missing="$$missing mupdf-tools"; \
	command -v zbarimg >/dev/null || missing="$$missing zbar-tools"; \
	if [ -n "$$missing" ]; then echo "Installing$$missing"; $(SUDO) apt-get update -qq && DEBIAN_FRONTEND=noninteractive $(SUDO) apt-get install -y -qq --no-install-recommends $$missing >/dev/null; fi

# Writes web/src/generated/types.ts from the Rust types.
types:
	VATMAN_WRITE_TYPES=1 cargo test --workspace --test types

# Every figure of docs/performance.md beside the last kept one. BESIDE=PROGRAM measures another program in turn with it.
bench: program
	python3 tools/measure.py $(TARGET)/release/vatman $(if $(BESIDE),--beside $(BESIDE)) $(MEASURE)

# The same with the benches of the crates.
bench-inside: program
	python3 tools/measure.py $(TARGET)/release/vatman --inside

# Brings all sources into form.
form: node web/node_modules/.package-lock.json
	cargo fmt --all
	cd web && npm run --silent form

# Form, warnings and types of the sources.
lint: lint-rust lint-pages lint-licences

lint-rust:
	@cargo fmt --version >/dev/null 2>&1 && cargo clippy --version >/dev/null 2>&1 || rustup component add rustfmt clippy
	cargo fmt --all --check
	@mkdir -p web/dist # what is packed into the program may not be built yet
	cargo clippy --workspace --all-targets --quiet -- -D warnings

lint-pages: node web/node_modules/.package-lock.json
	cd web && npm run --silent check

# Licences and sources of all that is built in (deny.toml).
lint-licences:
	@cargo deny --version >/dev/null 2>&1 || cargo install --locked --quiet cargo-deny
	cargo deny --all-features --log-level error check licenses bans sources

# Pictures of the main views, made from the demo data.
shots: tools-for-tests web
	cargo test --workspace --no-run
	$(TARGET)/debug/examples/shots docs/screenshots
