"""A second reader of NMEA 0183, written apart from the Rust one: it prints what it understood as JSON lines."""
import functools
import json
import sys

KNOT = 1852.0 / 3600.0


def degrees(text, hemisphere):
    head, minutes = text.split(".")[0][:-2], text[len(text.split(".")[0]) - 2:]
    value = int(head) + float(minutes) / 60.0
    return -value if hemisphere in "SW" else value


for line in sys.stdin:
    line = line.strip()
    body, _, given = line[1:].partition("*")
    if functools.reduce(lambda a, b: a ^ b, body.encode()) != int(given, 16):
        sys.exit("checksum of " + line)
    field = body.split(",")
    kind = field[0][2:]
    if kind == "RMC" and field[2] == "A":
        print(json.dumps({"lat": degrees(field[3], field[4]), "lon": degrees(field[5], field[6]), "sog": float(field[7]) * KNOT, "time": field[1]}))
    elif kind == "DPT" and field[1]:
        print(json.dumps({"depth": float(field[1]) + float(field[2])}))
    elif kind == "VHW":
        print(json.dumps({"stw": float(field[5]) * KNOT}))
    elif kind == "MTW":
        print(json.dumps({"temperature": float(field[1])}))
