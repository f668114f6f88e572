#!/usr/bin/env bash
# Installs Apache Spark for Python into tests/.tools/spark, for docs/scale.md and its test; about 500 MB. Spark runs on Java 17 or later.
set -euo pipefail
cd "$(dirname "$0")/../.."
if [ -x tests/.tools/spark/bin/spark-submit ]; then exit 0; fi
python3 -m venv tests/.tools/spark
tests/.tools/spark/bin/pip install --quiet pyspark==4.3.0
