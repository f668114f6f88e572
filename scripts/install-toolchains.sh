#!/usr/bin/env bash
# Installs every compiler, runtime and checker that the tests use, on Debian and its relatives. Swift and pydantic 2 are
# no packages of Debian 12: see swift.org/install, and pip install pydantic.
set -euo pipefail

packages=(
  python3     # runs the generated Python
  python3-pip # fetches the test suite of JSON Schema
  mypy    # checks its types
  black   # checks its layout
  golang-go
  rustc cargo rustfmt rust-clippy librust-serde-json-dev librust-serde-derive-dev librust-serde-path-to-error-dev
  openjdk-17-jdk-headless libjackson2-databind-java libjackson2-core-java libjackson2-annotations-java
  mono-mcs mono-runtime libnewtonsoft-json5.0-cil
  kotlin
  scala scala-library
  php-cli
  ruby
  g++ nlohmann-json3-dev
  chromium # opens the report in the tests
  time    # measures in the benchmarks
  procps  # tells the tests what is still running
)

sudo=()
if [ "$(id -u)" -ne 0 ]; then sudo=(sudo); fi
"${sudo[@]}" apt-get update -qq
DEBIAN_FRONTEND=noninteractive "${sudo[@]}" apt-get install -y -qq --no-install-recommends "${packages[@]}"

# The official test suite of JSON Schema, of which the source of a Python package carries a copy.
suite=tests/.suites/json-schema
cd "$(dirname "$0")/.."
if [ ! -d "$suite" ]; then
  fetched=$(mktemp -d)
  trap 'rm -rf "$fetched"' EXIT
  python3 -m pip download --quiet --no-deps --no-binary jsonschema --dest "$fetched" jsonschema==4.26.0
  tar -xzf "$fetched"/jsonschema-*.tar.gz -C "$fetched"
  mkdir -p "$(dirname "$suite")"
  mv "$fetched"/jsonschema-*/json/tests "$suite"
fi
