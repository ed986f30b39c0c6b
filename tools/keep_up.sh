#!/bin/sh
# Runs a command and starts it again when it dies, until this is stopped itself: one worker's death stops
# nobody else.
trap 'exit 0' TERM INT
while :; do
  "$@" &
  wait $!
  echo "ended, started again: $*" >&2
  sleep 1
done
