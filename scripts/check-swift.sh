#!/usr/bin/env bash
# Compiles the Swift of every case with swiftc, where there is one, and takes its payloads through it.
set -euo pipefail
cd "$(dirname "$0")/.."
swiftc="${SKEVO_SWIFTC:-swiftc}"
command -v "$swiftc" > /dev/null || { echo "there is no $swiftc here; see swift.org" >&2; exit 3; }
[ -e dist/skevo.js ] || npm run --silent build
work="$(mktemp -d)"
trap 'rm -rf "$work"' EXIT
failed=0
for folder in tests/snapshots/swift/case*/; do
  name="$(basename "$folder")"
  if ! "$swiftc" -warnings-as-errors tests/snapshots/swift/main.swift "$folder/Sailing.swift" -o "$work/bench"; then
    echo "$name: swiftc refuses it" >&2
    failed=1
    continue
  fi
  node dist/skevo.js infer "$folder/payloads.ndjson" --name Sailing --out "$work/schema.json" --quiet
  node dist/skevo.js check "$work/schema.json" "$folder/payloads.ndjson" --with "$work/bench" --quiet > "$work/report" \
    || { echo "$name:" >&2; cat "$work/report" >&2; failed=1; }
done
exit "$failed"
