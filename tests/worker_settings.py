"""A worker that also knows the tests' own kinds of jobs, and looks five times as often after those who give
no sign of life.
"""

from jungoptic.app.settings import *  # noqa: F403
from jungoptic.app.settings import PRELOADED as _PRELOADED
from jungoptic.app.settings import PROCRASTINATE_IMPORT_PATHS as _PATHS

PRELOADED = [*_PRELOADED, "tests.slow_jobs"]
PROCRASTINATE_IMPORT_PATHS = [*_PATHS, "tests.slow_jobs"]
FASTER = 5
JOB_BEAT_S = 1.0
JOB_STALLED_S = 3 * JOB_BEAT_S
JOB_SWEEP = "* * * * * */2"
PROCRASTINATE_WORKER_DEFAULTS = {
    "update_heartbeat_interval": JOB_BEAT_S,
    "stalled_worker_timeout": JOB_STALLED_S,
    "delete_jobs": "successful",
    "fetch_job_polling_interval": 1.0,
}
