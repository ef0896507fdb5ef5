"""The front: Debian's nginx, which holds every connection, so that slow ones cost no thread of Waka's.

It listens where Waka is reached, passes requests on through sockets in the home, and hands over contents and pictures once Waka
said yes (``X-Accel-Redirect``). Its configuration and its temporary files are in the home; it runs as Waka's own user.
docs/decisions/0001-serving.md says why, and what was tried.
"""

import os
from collections.abc import Sequence
from ipaddress import ip_network
from pathlib import Path

from waka.launch.home import Home
from waka.launch.reach import Tls

PROGRAM = Path("/usr/sbin/nginx")
#: Uploads that are taken at once; one more is asked to come again.
MAX_UPLOADS = 100
_TEMPORARY = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")

_CONFIGURATION = """
daemon off;
worker_processes 2;
worker_rlimit_nofile 8192;
worker_shutdown_timeout 4s;
pid {folder}/nginx.pid;
error_log stderr warn;
events {{ worker_connections 4096; }}
http {{
    access_log off;
    server_tokens off;
    default_type application/octet-stream;
    types {{
        text/javascript js mjs;
        text/css css;
        image/svg+xml svg;
        font/woff2 woff2;
        application/wasm wasm;
        application/json json map;
    }}
{temporary}
    sendfile on;
    sendfile_max_chunk 1m;
    reset_timedout_connection on;

    # a head or a body may be slow; nobody's thread waits for it
    client_header_timeout 10s;
    client_body_timeout 20s;
    send_timeout 60s;
    keepalive_timeout 75s;
    client_header_buffer_size 2k;
    large_client_header_buffers 4 16k;
    client_max_body_size 1m;
    limit_conn_zone $server_name zone=uploads:1m;
    limit_conn_status 503;

    upstream everyday {{ server unix:{everyday}; }}
    upstream uploads {{ server unix:{uploads}; }}

    proxy_http_version 1.1;
    proxy_set_header Connection "";
    proxy_set_header Host $http_host;
    proxy_set_header X-Forwarded-For "";
    proxy_set_header X-Waka-Caller $remote_addr;
    proxy_next_upstream off;
    proxy_connect_timeout 5s;
    proxy_read_timeout 300s;
    proxy_buffers 32 16k;
    proxy_max_temp_file_size 256m;

    {proxies}
    server {{
        listen {listen} default_server backlog=4096;
        server_name _;
        {tls}

        error_page 400 494 495 496 497 =400 /problem/bad;
        error_page 408 /problem/slow;
        error_page 413 /problem/large;
        error_page 414 /problem/bad;
        error_page 500 507 =507 /problem/full;
        error_page 502 504 =503 /problem/starting;
        error_page 503 /problem/busy;

        location / {{ proxy_pass http://everyday; }}
        location /api/uploads/ {{
            client_max_body_size 2100m;
            client_body_timeout 60s;
            limit_conn uploads {max_uploads};
            proxy_request_buffering off;
            proxy_send_timeout 300s;
            proxy_pass http://uploads;
        }}
        location /assets/ {{
            alias {frontend}/assets/;
            gzip on;
            gzip_comp_level 6;
            gzip_min_length 1k;
            gzip_types text/javascript text/css application/json application/wasm image/svg+xml;
            add_header Cache-Control "public, max-age=31536000, immutable";
            add_header X-Content-Type-Options nosniff;
        }}
        location /handed-over/content/ {{ internal; alias {content}/; {handed} }}
        location /handed-over/pictures/ {{ internal; alias {pictures}/; {handed} }}

        location = /problem/bad {{ internal; {as_problem} return 400 '{bad}'; }}
        location = /problem/slow {{ internal; {as_problem} return 408 '{slow}'; }}
        location = /problem/large {{ internal; {as_problem} return 413 '{large}'; }}
        location = /problem/full {{ internal; {as_problem} return 507 '{full}'; }}
        location = /problem/starting {{ internal; {as_problem} return 503 '{starting}'; }}
        location = /problem/busy {{ internal; {as_problem} add_header Retry-After 2 always; return 503 '{busy}'; }}
    }}
}}
"""

#: RFC 8446 and 5246, with the ciphers that the library takes for good.
_TLS = "ssl_protocols TLSv1.2 TLSv1.3; ssl_session_cache shared:waka:2m; ssl_session_tickets off;"
#: What Waka said of a content goes with it; what the file system says of it does not count.
_HANDED = " ".join(
    ["etag off; if_modified_since off; add_header Last-Modified '';"]
    + [
        f"add_header {head} $upstream_http_{head.lower().replace('-', '_')};"
        for head in ("ETag", "Content-Security-Policy", "X-Content-Type-Options", "Referrer-Policy", "X-Request-Id",
                     "Cross-Origin-Opener-Policy")
    ]
)  # fmt: skip
_AS_PROBLEM = "default_type application/problem+json; add_header X-Content-Type-Options nosniff always; add_header Cache-Control no-store always;"


def there() -> bool:
    """Whether nginx is installed."""
    return os.access(PROGRAM, os.X_OK)


def _problem(status: int, title: str, code: str, detail: str) -> str:
    """Problem details (RFC 9457) as they stand in the configuration; no text holds quotes or backslashes."""
    return (
        f'{{"type":"urn:waka:problem:{code}","title":"{title}","status":{status},"code":"{code}","detail":"{detail}"}}'
    )


def configuration(home: Home, *, port: int, frontend: Path, tls: Tls | None = None, proxies: Sequence[str] = ()) -> str:
    """The configuration for one home: ``port`` of loopback only; of all addresses over ``tls``, or for declared ``proxies`` alone.

    What a proxy says of who calls (X-Forwarded-For) is believed of those, and the last address that is none of theirs counts.
    """
    folder = home.run / "front"
    beyond = tls is not None or any(not ip_network(one, strict=False).is_loopback for one in proxies)
    listen = f"{port}{' ssl' if tls else ''}" if beyond else f"127.0.0.1:{port}"
    believed = [f"set_real_ip_from {one};" for one in proxies]
    if proxies:
        believed += ["real_ip_header X-Forwarded-For;", "real_ip_recursive on;"]
    secured = [f"ssl_certificate {tls.certificate};", f"ssl_certificate_key {tls.key};", _TLS] if tls else []
    if proxies and beyond and not tls:
        # plain HTTP is for the proxies alone, and for this machine
        secured = [f"allow {one};" for one in (*proxies, "127.0.0.1")] + ["deny all;"]
    return _CONFIGURATION.format(
        folder=folder,
        temporary="\n".join(f"    {one}_temp_path {folder}/{one};" for one in _TEMPORARY),
        everyday=home.socket("everyday"),
        uploads=home.socket("uploads"),
        listen=listen,
        proxies=" ".join(believed),
        tls=" ".join(secured),
        max_uploads=MAX_UPLOADS,
        frontend=frontend,
        content=home.contents,
        pictures=home.pictures,
        handed=_HANDED,
        as_problem=_AS_PROBLEM,
        bad=_problem(400, "Bad Request", "http", "The request cannot be understood, or its head is too large."),
        slow=_problem(408, "Request Timeout", "slow", "The request took too long to come. Try again."),
        large=_problem(413, "Request Entity Too Large", "too-large", "The request is larger than may be sent here."),
        full=_problem(507, "Insufficient Storage", "disk", "The disk has no room for this. Make room, then try again."),
        starting=_problem(503, "Service Unavailable", "starting", "Waka is just starting again. Nothing was changed; try again shortly."),
        busy=_problem(503, "Service Unavailable", "busy", "Very many documents are being brought in at once. Try again shortly."),
    )  # fmt: skip


def command(home: Home, *, port: int, frontend: Path, tls: Tls | None = None, proxies: Sequence[str] = ()) -> list[str]:
    """Write the configuration; the command line of the server."""
    folder = home.run / "front"
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / "nginx.conf"
    path.write_text(configuration(home, port=port, frontend=frontend, tls=tls, proxies=proxies), encoding="utf-8")
    return [str(PROGRAM), "-p", f"{folder}/", "-c", str(path), "-e", "stderr"]
