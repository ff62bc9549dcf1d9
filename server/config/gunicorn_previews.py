"""How the process for previews is served: one process, so that pictures are decoded once, and a few threads."""

import os

bind = os.environ.get("HAKOBU_PREVIEWS", "127.0.0.1:8790")
workers = 1
worker_class = "gthread"
threads = 4
keepalive = 60
control_socket_disable = True
timeout = 90
graceful_timeout = 5
accesslog = None


def post_worker_init(worker) -> None:
    """Starts a child process that decodes before anybody waits for it."""
    from hakobu.children import CHILDREN

    CHILDREN.keep_ready()
