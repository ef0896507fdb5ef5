"""How a Waka is reached from other machines: over TLS with files of one's own, or through a declared proxy. Else from this machine alone."""

import ipaddress
import os
import ssl
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509

from waka.launch.trouble import Trouble

#: From so many days on before a certificate ends it is told.
TOLD_DAYS = 14


@dataclass(frozen=True)
class Tls:
    """A certificate (with its chain) and its key, as PEM files."""

    certificate: Path
    key: Path

    def check(self) -> None:
        """Raise Trouble where the files are no certificate and its key."""
        try:
            ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(self.certificate, self.key)
        except (OSError, ssl.SSLError) as error:
            raise Trouble(
                f"The files {self.certificate} and {self.key} are no certificate and its key: {error}.",
                "Give PEM files that this user may read: --tls CERT KEY.",
            ) from error

    def names(self) -> list[str]:
        """The host names that the certificate is for (RFC 6125: those of its subject alternative name)."""
        try:
            found = self._read().extensions.get_extension_for_class(x509.SubjectAlternativeName)
        except x509.ExtensionNotFound:
            return []
        return [name.lower() for name in found.value.get_values_for_type(x509.DNSName) if "*" not in name]

    def ends_at(self) -> datetime:
        """When the certificate ends (UTC)."""
        return self._read().not_valid_after_utc

    def soon_over(self, now: datetime | None = None) -> bool:
        """Whether it ends within ``TOLD_DAYS``, or has ended."""
        return self.ends_at() - (now or datetime.now(UTC)) < timedelta(days=TOLD_DAYS)

    def _read(self) -> x509.Certificate:
        return x509.load_pem_x509_certificate(self.certificate.read_bytes())


def declared_hosts() -> list[str]:
    """The names that whoever runs Waka declared (``WAKA_HOSTS``)."""
    return os.environ.get("WAKA_HOSTS", "").lower().split()


def declared_proxies() -> list[str]:
    """The addresses of proxies that are declared (``WAKA_PROXY``: addresses or networks). Raises Trouble for what is none."""
    told = os.environ.get("WAKA_PROXY", "").replace(",", " ").split()
    for one in told:
        try:
            ipaddress.ip_network(one, strict=False)
        except ValueError as error:
            raise Trouble(
                f"WAKA_PROXY: “{one}” is no address.", "Write addresses as 10.0.0.5 or 10.0.0.0/24."
            ) from error
    return told
