#!/bin/sh
# Runs a command and starts it again when it dies, until this is stopped itself: after a second where it had
# lived for a minute, else after a pause that grows to half a minute. Nothing of it outlives this.
LONGEST=30
pause=1 child=""
trap '[ -z "$child" ] || kill "$child" 2>/dev/null; wait; exit 0' TERM INT
while :; do
  began=$(date +%s)
  setpriv --pdeathsig TERM "$@" &
  child=$!
  wait "$child"
  status=$?
  child=""
  lived=$(($(date +%s) - began))
  if [ "$lived" -ge 60 ]; then pause=1; fi
  echo "$(date -u +%FT%TZ) ended with $status after $lived s, started again in $pause s: $*" >&2
  sleep "$pause" &
  child=$!
  wait "$child"
  pause=$((pause * 2 > LONGEST ? LONGEST : pause * 2))
done
