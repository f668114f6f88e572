"""Runs Skevo over the partitions of a text file of Spark, and prints a line for each, to be put together.

spark-submit partitions.py LINES PARTITIONS COMMAND...

Each partition is piped through the command, with --stdin-name behind it: the parts sort as they follow each other in
the file, so that what comes of them together is what comes of the file at once. (rdd.pipe gives no such name.)
"""

import subprocess
import sys
from collections.abc import Iterable, Iterator

from pyspark.sql import SparkSession


def piped(index: int, lines: Iterable[str]) -> Iterator[str]:
    named = [*COMMAND, "--stdin-name", f"part-{index:05}"]
    with subprocess.Popen(
        named, stdin=subprocess.PIPE, stdout=subprocess.PIPE
    ) as program:
        assert program.stdin is not None and program.stdout is not None
        # Skevo answers when it has read all.
        for line in lines:
            program.stdin.write(line.encode() + b"\n")
        program.stdin.close()
        yield from program.stdout.read().decode().splitlines()
    if program.returncode != 0:
        raise RuntimeError(f"{named} ended with {program.returncode}")


PATH, PARTITIONS, *COMMAND = sys.argv[1:]
lines = SparkSession.builder.getOrCreate().sparkContext.textFile(PATH, int(PARTITIONS))
print("\n".join(lines.mapPartitionsWithIndex(piped).collect()))
