"""Reached from other machines: over TLS with a certificate that is read again, through declared proxies that alone are believed."""

import http.client
import os
import signal
import socket
import ssl
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path

import psycopg
import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from tests.launch.served import waka
from waka.launch import front
from waka.launch.home import Home, free_port
from waka.launch.reach import Tls, declared_proxies
from waka.launch.trouble import Trouble

NAME = "waka.saltmarsh.example"


def certificate(folder: Path, *, days: int = 90, name: str = "waka") -> Tls:
    """A certificate of one's own for ``NAME``."""
    key = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, NAME)])
    now = datetime.now(UTC)
    made = (
        x509.CertificateBuilder().subject_name(subject).issuer_name(subject).public_key(key.public_key())
        .serial_number(x509.random_serial_number()).not_valid_before(now - timedelta(days=1)).not_valid_after(now + timedelta(days=days))
        .add_extension(x509.SubjectAlternativeName([x509.DNSName(NAME)]), critical=False).sign(key, hashes.SHA256())
    )  # fmt: skip
    files = Tls(folder / f"{name}.pem", folder / f"{name}.key")
    files.certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))
    files.key.write_bytes(
        key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    )
    return files


@contextmanager
def serving(home: Path, port: int, *more: str, **environment: str) -> Iterator[tuple["subprocess.Popen[str]", str]]:
    """``waka serve`` with more arguments; the process, and the address that it prints."""
    command = [sys.executable, "-m", "waka.cli", "serve", "--home", str(home), "--port", str(port), *more]
    process = subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env={**os.environ, **environment}
    )
    assert process.stdout is not None
    try:
        told = []
        for line in process.stdout:
            told.append(line)
            if "Waka is at" in line:
                break
        assert told and "Waka is at" in told[-1], "".join(told)
        yield process, told[-1].split()[3]
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(60)
        process.stdout.close()


def test_over_tls_with_a_certificate_that_is_read_again(tmp_path: Path, built_frontend: Path) -> None:
    files, port = certificate(tmp_path), free_port()
    with serving(tmp_path / "home", port, "--tls", str(files.certificate), str(files.key)) as (process, address):
        assert address == f"https://{NAME}:{port}"

        loose = ssl._create_unverified_context()

        def presented() -> int:
            with (
                socket.create_connection(("127.0.0.1", port), timeout=10) as plain,
                loose.wrap_socket(plain, server_hostname=NAME) as connection,
            ):
                told = connection.getpeercert(binary_form=True)
            assert told is not None
            return x509.load_der_x509_certificate(told).serial_number

        def asked(connection: http.client.HTTPConnection) -> int:
            with closing(connection):
                connection.request("GET", "/api/health", headers={"Host": NAME})
                return connection.getresponse().status

        first = presented()
        assert asked(http.client.HTTPSConnection("127.0.0.1", port, timeout=10, context=loose)) == 200
        assert asked(http.client.HTTPConnection("127.0.0.1", port, timeout=10)) == 400
        set_up = waka("set-up", home=tmp_path / "home")
        assert f"https://{NAME}:{port}/set-up#" in set_up.stdout
        certificate(tmp_path)
        process.send_signal(signal.SIGHUP)
        assert process.stdout is not None
        assert any("is good until" in line for line in process.stdout if "certificate" in line)
        # workers that are ending may take a last connection
        until = time.monotonic() + 30
        while presented() == first:
            assert time.monotonic() < until, "the certificate is still the one before"


def test_what_a_proxy_says_is_believed_of_declared_ones_only(tmp_path: Path, built_frontend: Path) -> None:
    """Of several addresses the last counts that is no proxy's; nothing of who is no proxy."""
    for proxy, forwarded, counted in (
        ("127.0.0.1", "203.0.113.9, 198.51.100.7", "198.51.100.7"),
        ("192.0.2.1", "203.0.113.9", "127.0.0.1"),
    ):
        home, port = tmp_path / proxy, free_port()
        with serving(home, port, WAKA_PROXY=proxy, WAKA_HOSTS=NAME) as (_, address):
            assert address == f"https://{NAME}"
            added = waka("user", "add", "petra", "--name", "Petra", "--password", "slipway-lights", home=home)
            assert added.returncode == 0, added.stderr
            body = '{"login": "petra", "password": "wrong-password"}'
            heads = {"Content-Type": "application/json", "Host": NAME, "X-Forwarded-For": forwarded}
            with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=20)) as connection:
                connection.request("POST", "/api/session", body, heads)
                assert connection.getresponse().status == 401
            there = Home(home)
            with psycopg.connect(there.conninfo(there.state()["database_port"])) as conn:
                row = conn.execute("SELECT address FROM office_trail ORDER BY id DESC LIMIT 1").fetchone()
            assert row == (counted,)


def test_files_that_are_no_certificate_are_told(tmp_path: Path) -> None:
    files, other = certificate(tmp_path), certificate(tmp_path, name="other")
    files.check()
    with pytest.raises(Trouble, match="no certificate and its key"):
        Tls(files.certificate, other.key).check()
    (tmp_path / "empty").touch()
    with pytest.raises(Trouble, match="no certificate and its key"):
        Tls(tmp_path / "empty", files.key).check()


def test_a_certificate_that_ends_is_told_14_days_before(tmp_path: Path) -> None:
    files = certificate(tmp_path, days=30)
    now = datetime.now(UTC)
    assert files.names() == [NAME]
    assert not files.soon_over(now + timedelta(days=15))
    assert files.soon_over(now + timedelta(days=17))
    assert files.soon_over(now + timedelta(days=40))


def test_plain_http_beyond_this_machine_is_for_proxies_alone(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    home = Home(tmp_path)
    home.prepare()
    told = front.configuration(home, port=8620, frontend=tmp_path, proxies=["10.0.0.5"])
    assert "listen 8620 default_server" in told
    assert "allow 10.0.0.5; allow 127.0.0.1; deny all;" in told
    assert "listen 127.0.0.1:8620 default_server" in front.configuration(home, port=8620, frontend=tmp_path)
    monkeypatch.setenv("WAKA_PROXY", "10.0.0.5, everybody")
    with pytest.raises(Trouble, match="is no address"):
        declared_proxies()
