#!/usr/bin/env bash
# Starts the database of this checkout again when it died, on the same port. Another's is left alone.
set -u
[ -n "${CLUSTER:-}" ] || exec sleep infinity
. "$(dirname "${BASH_SOURCE[0]}")/database.sh"
pause=1
trap 'exit 0' TERM INT
while sleep 0.5; do
  pid=$(head -1 "$CLUSTER/data/postmaster.pid" 2>/dev/null)
  if [ -n "$pid" ] && [ -d "/proc/$pid" ]; then
    pause=1
    continue
  fi
  echo "$(date -u +%FT%TZ) the database is down: it is started again" >&2
  if ! start_cluster; then
    echo "it did not start, tried again in $pause s: $(as_db_user tail -1 "$CLUSTER/log" 2>&1)" >&2
    sleep "$pause"
    pause=$((pause * 2 > 30 ? 30 : pause * 2))
  fi
done
