#!/usr/bin/env bash
# Installs every compiler, runtime and checker that the tests use, on Debian and its relatives. Rust is an old package of
# Debian 12: see rust-lang.org/tools/install.
set -euo pipefail

packages=(
  python3     # runs the generated Python
  python3-pip # fetches checkers of C++ and the test suite of JSON Schema
  python3-venv # for a Python of the tests' own
  mypy    # checks its types
  black   # checks its layout
  golang-go
  openjdk-17-jdk-headless maven
  mono-mcs mono-runtime libnewtonsoft-json5.0-cil
  php-cli php-codesniffer
  ruby rubocop # checks its layout
  r-base-core r-cran-jsonlite r-cran-bit64 r-cran-lintr
  g++ nlohmann-json3-dev
  patchelf # makes the compiler of Swift run beside the system
  chromium # opens the report in the tests
  time    # measures in the benchmarks
  procps  # tells the tests what is still running
  zsh fish # shells that completion is for
  parallel # runs parts of a task beside each other
  groff-base # reads the manual
  bsdutils # a terminal for a program
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

# What the types for the JVM use, and the formatters that the tests ask.
scripts/install-jvm-compilers.sh
{
  cat src/languages/{java,kotlin,scala}/templates/*.text
  echo com.pinterest.ktlint:ktlint-cli:1.8.0:jar:all
} | while read -r library; do
  folder=~/.m2/repository/$(cut -d : -f 1 <<< "$library" | tr . /)/$(cut -d : -f 2,3 --output-delimiter=/ <<< "$library")
  if ls "$folder"/*.jar &> /dev/null; then continue; fi
  mvn --quiet --batch-mode org.apache.maven.plugins:maven-dependency-plugin:3.9.0:get \
    "-Dartifact=$library" -Dtransitive=false < /dev/null
done

# Formatters and checkers that are no programs of their own.
for tool in error-prone scalafmt; do
  if [ -d "tests/.tools/$tool" ]; then continue; fi
  mvn --quiet --batch-mode --file "scripts/jvm/$tool.xml" \
    org.apache.maven.plugins:maven-dependency-plugin:3.9.0:copy-dependencies "-DoutputDirectory=$PWD/tests/.tools/$tool" < /dev/null
done

# A Python with the libraries of the generated models, and checkers of today.
python=tests/.tools/python
if ! "$python/bin/python3" -c 'import msgspec' 2> /dev/null; then
  python3 -m venv "$python"
  "$python/bin/pip" install --quiet pydantic==2.14.4 msgspec==0.23.0 ruff==0.17.6 mypy==2.4.1 black==26.1.0 pyright==1.1.414
fi

# Later versions of Node.js, on which the package is installed and run.
for version in 22.23.3 24.21.0; do
  folder=tests/.tools/node-${version%%.*}
  if [ -x "$folder/node_modules/node/bin/node" ]; then continue; fi
  npm install --silent --no-save --no-audit --no-fund --prefix "$folder" "node@$version"
done

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
