"""How the application is served: two processes of eight threads, on loopback."""

import os

bind = f"127.0.0.1:{os.environ.get('HAKOBU_PORT', '8780')}"
workers = 2
worker_class = "gthread"
threads = 8
preload_app = True
control_socket_disable = True
timeout = 90
graceful_timeout = 10
accesslog = None


def post_worker_init(worker) -> None:
    """What the first request would have to wait for: a child process that reads files, and the spatial index."""
    import threading

    def warm_up() -> None:
        import scipy.spatial  # noqa: F401

        from hakobu.children import CHILDREN

        CHILDREN.keep_ready()

    threading.Thread(target=warm_up, daemon=True).start()
