web: exec setpriv --pdeathsig TERM tools/keep_up.sh gunicorn jungoptic.app.wsgi --config python:jungoptic.app.lines --bind "$JUNGOPTIC_HOST:$PORT" --workers "${WEB_CONCURRENCY:-2}" --threads 24 --worker-class gthread --access-logfile /dev/null --log-level warning --worker-tmp-dir /dev/shm
events: exec setpriv --pdeathsig TERM tools/keep_up.sh python -m uvicorn jungoptic.app.events.asgi:application --host "$JUNGOPTIC_HOST" --port "$JUNGOPTIC_EVENTS_PORT" --lifespan off --no-access-log --log-level warning --timeout-graceful-shutdown 1
light: exec setpriv --pdeathsig TERM tools/keep_up.sh python -m jungoptic.app.manage procrastinate worker --queues light,upkeep --concurrency 2
heavy: exec setpriv --pdeathsig TERM tools/keep_up.sh nice -n 15 python -m jungoptic.app.manage procrastinate worker --queues heavy --concurrency "$(nproc)"
database: exec setpriv --pdeathsig TERM tools/keep_database.sh
