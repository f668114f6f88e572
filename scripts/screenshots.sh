#!/usr/bin/env bash
# Makes docs/screenshots from the demo data: a real terminal window under Xvfb.
# Needs the packages xvfb, xterm, imagemagick, chromium and fonts-dejavu-core.
set -euo pipefail
cd "$(dirname "$0")/.."
here=$PWD
out=$PWD/docs/screenshots
command=$PWD/dist/skevo.js
work=$(mktemp -d)
trap 'kill $display $ferries 2>/dev/null; rm -rf "$work"' EXIT

# The Python that has pydantic, where scripts/install-toolchains.sh made it.
if [ -x "$here/tests/.tools/python/bin/python3" ]; then export SKEVO_PYTHON=$here/tests/.tools/python/bin/python3; fi

export DISPLAY=:93
Xvfb :93 -screen 0 1280x800x24 >/dev/null 2>&1 &
display=$!
sleep 1
cp -r demo/payloads "$work/samples"
cp demo/broken-decoder.mjs "$work/"
cp -r demo/partners "$work/partners"
mkdir "$work/bin"
printf '#!/bin/sh\nexec node %s "$@"\n' "$command" >"$work/bin/skevo"
chmod +x "$work/bin/skevo"
export PATH="$work/bin:$PATH"
cd "$work"
skevo infer samples/sailings --at '/results/*' --name Sailing --out sailing.schema.json --quiet
cp -r "$here/demo/later" later
skevo demo --serve --port 4180 >/dev/null 2>&1 &
ferries=$!
sleep 1

# project: a folder with a contract that has run on the first version of the API, and answers of the second.
project() {
  rm -rf project && mkdir project && cd project
  skevo capture 'http://127.0.0.1:4180/v1/sailings?page=1' --pages 8 --out samples/sailings --quiet >/dev/null
  skevo init samples --language python,go,typescript --quiet >/dev/null
}

# shoot NAME COMMAND: the first screen of what COMMAND prints on a terminal.
shoot() {
  local name=$1 text=$2
  printf '%s\n' "$text" >command.txt
  cat >scene.sh <<'EOF'
script -qfc "$(cat command.txt)" printed.txt >/dev/null
printf '\033[?25l$ %s\n' "$(cat command.txt)"
tail -n +2 printed.txt | sed '/^Script done/d' | head -n 47
touch done
sleep 20
EOF
  rm -f done printed.txt
  xterm -geometry 158x50+0+0 -fa 'DejaVu Sans Mono' -fs 10 -bg '#10151a' -fg '#d8dee4' -xrm 'XTerm*scrollBar: false' -e bash scene.sh &
  local window=$!
  for _ in $(seq 200); do [ -e done ] && break; sleep 0.1; done
  sleep 0.7
  import -window root "$out/$name.png"
  kill "$window" 2>/dev/null || true
  wait "$window" 2>/dev/null || true
}

scenes=${*:-outline outline-xml infer-explain infer-update locate validate check-clean check-broken check-csv convert mapping demo languages capture run compare report}
for scene in $scenes; do
  case $scene in
    outline) shoot outline "skevo outline samples/sailings" ;;
    outline-xml) shoot outline-xml "skevo outline partners/fares.xml" ;;
    check-csv)
      skevo infer partners/timetable.csv --out timetable.schema.json --quiet
      shoot check-csv "skevo check timetable.schema.json partners/timetable.csv --language python --with 'node broken-decoder.mjs'"
      ;;
    convert)
      sed 's/;80;/;eighty;/; s/14.00;false/14.00;perhaps/' partners/timetable.csv >tuesday.csv
      skevo infer partners/timetable.csv --out timetable.schema.json --quiet
      shoot convert 'skevo convert tuesday.csv --schema timetable.schema.json --rejects rejects.ndjson --to yaml'
      ;;
    mapping)
      cp -r "$here/demo/schemas" schemas
      shoot mapping 'skevo mapping schemas/timetable.schema.json schemas/departure.schema.json'
      ;;
    infer-explain) shoot infer-explain "skevo infer samples/vessels --explain" ;;
    infer-update) shoot infer-update "skevo infer later --at '/results/*' --update sailing.schema.json --out next.schema.json" ;;
    locate) shoot locate "skevo locate samples/sailings --key gate --language python,typescript:interface" ;;
    validate) shoot validate "skevo validate sailing.schema.json later --at '/results/*'" ;;
    check-clean) 
      skevo check sailing.schema.json samples/sailings --at '/results/*' --quiet >/dev/null # builds, which take longer than a picture may
      shoot check-clean "skevo check sailing.schema.json samples/sailings --at '/results/*' --vary --quiet" ;;
    check-broken) shoot check-broken "skevo check sailing.schema.json samples/sailings --at '/results/*' --with 'node broken-decoder.mjs'" ;;
    demo) shoot demo "skevo demo" ;;
    languages) shoot languages "skevo languages" ;;
    capture)
      shoot capture "skevo capture 'http://127.0.0.1:4180/v1/sailings?page=1' --pages 8 --out captured; skevo capture http://127.0.0.1:4180/html --out captured; skevo capture 'http://127.0.0.1:4180/busy?times=1' --out captured" ;;
    run)
      project
      shoot run "skevo run; skevo capture 'http://127.0.0.1:4180/v2/sailings?page=1' --pages 8 --out samples/sailings >/dev/null; skevo run --locked"
      cd "$work" ;;
    compare)
      project
      skevo run --quiet >/dev/null
      cp schemas/sailing.schema.json before.json
      skevo capture 'http://127.0.0.1:4180/v2/sailings?page=1' --pages 8 --out samples/sailings --quiet >/dev/null
      skevo run --quiet >/dev/null
      shoot compare "skevo compare before.json schemas/sailing.schema.json"
      cd "$work" ;;
    report)
      skevo check sailing.schema.json samples/sailings --at '/results/*' --with 'node broken-decoder.mjs' \
        --language all --report report.html --quiet >/dev/null || true
      node "$here/scripts/report-screenshots.mjs" "$work/report.html" "$out" ;;
  esac
done
