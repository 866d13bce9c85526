#!/bin/sh
# Seeds for the fuzzers, out of the demo and the reference files: run once, in fuzz/.
set -eu
cd "$(dirname "$0")"
motilis=${MOTILIS:-../target/release/motilis}
data=$(mktemp -d)
trap 'rm -rf "$data"' EXIT
"$motilis" demo --data "$data/demo.db" --listen 127.0.0.1:0 >/dev/null &
program=$!
sleep 4
kill "$program"
wait "$program" || true
mkdir -p corpus/import corpus/gpx corpus/numbers corpus/requests corpus/nmea corpus/ride
for what in log passes fish casts parts; do
    "$motilis" export "$what" --data "$data/demo.db" | head -c 6000 > "corpus/import/$what.csv"
    "$motilis" export "$what" --json --data "$data/demo.db" | head -c 6000 > "corpus/import/$what.json"
done
"$motilis" export track --gpx --data "$data/demo.db" 2>/dev/null | head -c 6000 > corpus/gpx/track.gpx || true
n=0
for figure in "1.2" "5 ft 6 in" "1 1/2" "3/4 oz" "1,2 km/h" "½" "1e9" "-4" "58 °F" "5/32\""; do
    n=$((n + 1)); printf '%s' "$figure" > "corpus/numbers/$n"
done
n=0
for file in towline_cases blade_cases rate_cases river_cases; do
    # The first byte says what is asked: one copy for each question.
    for question in 0 1 2 3 4 5 6 7 8 9; do
        n=$((n + 1))
        { printf "\\00$question"; head -n 1 "../crates/motilis-core/tests/data/$file.jsonl"; } > "corpus/requests/$n"
    done
done
cp ../crates/motilis-formats/tests/data/ride.nmea corpus/nmea/
cp ../crates/motilis-formats/tests/data/ride.nmea corpus/ride/
