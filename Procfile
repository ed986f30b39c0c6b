web: exec gunicorn jungoptic.app.wsgi --bind "$JUNGOPTIC_HOST:$PORT" --workers 2 --threads 4 --worker-class gthread --access-logfile /dev/null --log-level warning --worker-tmp-dir /dev/shm
worker: exec python -m jungoptic.app.manage procrastinate worker
