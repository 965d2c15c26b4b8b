#!/bin/sh
# What the demo answers under load, beside a bare Gin with the same bytes: loopback alone, some two minutes.
set -e
dir=$(mktemp -d)
go build -o "$dir/kollaris" ./cmd/kollaris
go build -o "$dir/load" ./tools/load
"$dir/kollaris" demo --addr 127.0.0.1:8093 2>"$dir/log" &
trap 'kill $!; rm -rf "$dir"' EXIT
for _ in $(seq 100); do curl -s -o /dev/null http://127.0.0.1:8093/healthz && break; sleep 0.1; done
"$dir/load" -at http://127.0.0.1:8093 -for 8s
grep VmHWM "/proc/$!/status" || true
