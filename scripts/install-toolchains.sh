#!/usr/bin/env bash
# Installs every compiler, runtime and checker that the tests use, on Debian and its relatives. Rust and pydantic 2 are no
# packages of Debian 12, or old ones: see rust-lang.org/tools/install, and pip install pydantic.
set -euo pipefail

packages=(
  python3     # runs the generated Python
  python3-pip # fetches checkers of C++ and the test suite of JSON Schema
  mypy    # checks its types
  black   # checks its layout
  golang-go
  openjdk-17-jdk-headless maven libjackson2-databind-java libjackson2-core-java libjackson2-annotations-java
  mono-mcs mono-runtime libnewtonsoft-json5.0-cil
  kotlin
  scala scala-library
  php-cli
  ruby
  g++ nlohmann-json3-dev
  patchelf # makes the compiler of Swift run beside the system
  chromium # opens the report in the tests
  time    # measures in the benchmarks
  procps  # tells the tests what is still running
)

# Debian's own Rust is too old; what its browsers are built with is not.
known=$(cargo --version 2> /dev/null | cut -d ' ' -f 2 || true)
if [ "$(printf '%s\n' 1.85.0 "${known:-0}" | sort -V | head -n 1)" != 1.85.0 ]; then
  packages+=(rustc-web cargo-web rustfmt-web)
fi

sudo=()
if [ "$(id -u)" -ne 0 ]; then sudo=(sudo); fi
"${sudo[@]}" apt-get update -qq
DEBIAN_FRONTEND=noninteractive "${sudo[@]}" apt-get install -y -qq --no-install-recommends "${packages[@]}"

if ! command -v swiftc > /dev/null; then "$(dirname "$0")/install-swift.sh"; fi

# The crates of the generated Rust: nothing is fetched after this.
cd "$(dirname "$0")/.."
if command -v cargo > /dev/null; then
  crates=$(mktemp -d)
  trap 'rm -rf "$crates"' EXIT
  mkdir "$crates/src"
  cp src/languages/rust/templates/dependencies.toml "$crates/Cargo.toml"
  touch "$crates/src/lib.rs"
  cargo fetch --quiet --manifest-path "$crates/Cargo.toml"
fi

# The libraries of the generated Java, which Debian does not have.
while read -r library; do
  mvn --quiet --batch-mode org.apache.maven.plugins:maven-dependency-plugin:3.9.0:get \
    "-Dartifact=$library" -Dtransitive=false < /dev/null
done < src/languages/java/templates/libraries.text

# What Debian has of these is old.
tools=tests/.tools/clang
if [ ! -x "$tools/bin/clang-tidy" ]; then
  python3 -m pip install --quiet --target "$tools" clang-format==19.1.7 clang-tidy==19.1.0
fi

# The official test suite of JSON Schema, of which the source of a Python package carries a copy.
suite=tests/.suites/json-schema
if [ ! -d "$suite" ]; then
  fetched=$(mktemp -d)
  trap 'rm -rf "${crates:-}" "$fetched"' EXIT
  python3 -m pip download --quiet --no-deps --no-binary jsonschema --dest "$fetched" jsonschema==4.26.0
  tar -xzf "$fetched"/jsonschema-*.tar.gz -C "$fetched"
  mkdir -p "$(dirname "$suite")"
  mv "$fetched"/jsonschema-*/json/tests "$suite"
fi
