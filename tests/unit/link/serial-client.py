"""Talks to the simulated printer over a pseudo-terminal as anybody's serial program would; prints what it saw as JSON."""
import json
import sys
import time

import serial

port = serial.Serial(sys.argv[1], 115200, timeout=5)


def exchange(line):
    """Sends one line; returns all lines up to and with `ok`."""
    port.write((line + "\n").encode())
    answers = []
    deadline = time.time() + 30
    while time.time() < deadline:
        answer = port.readline().decode().strip()
        if answer:
            answers.append(answer)
        if answer.startswith("ok"):
            return answers
    raise SystemExit(f"no ok to {line}: {answers}")


seen = {line: exchange(line) for line in ["M115", "M114", "G28", "M105", "M110 N2"]}
# Check vectors from memory: lines with number and checksum.
for line in ["N3 T0*57", "N4 G92 E0*67", "N5 G28*22", "N6 G1 F1500.0*82"]:
    seen[line] = exchange(line)
seen["wrong"] = exchange("N7 G1 F1500.0*82")
seen["out of order"] = exchange("N9 M105*%d" % __import__("functools").reduce(lambda a, b: a ^ b, b"N9 M105"))
print(json.dumps(seen))
