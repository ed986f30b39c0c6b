"""Wait until an address answers, or until the process that should serve it has ended: wait_for.py ADDRESS
PID.
"""

import os
import sys
import time
import urllib.error
import urllib.request

address, pid = sys.argv[1], int(sys.argv[2])
for _ in range(300):
    try:
        urllib.request.urlopen(address, timeout=2).read()
        sys.exit(0)
    except (urllib.error.URLError, OSError):
        time.sleep(0.1)
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        sys.exit(1)
sys.exit(1)
