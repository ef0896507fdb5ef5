"""The demo's parties, and what they send. Invented, all of them."""

from dataclasses import dataclass

TRUST = "Saltmarsh Boatyard Trust"
TRUST_ADDRESS = ("The Slip", "Saltmarsh")


@dataclass(frozen=True)
class DemoParty:
    """A party of the register. ``layout`` is how its papers look, ``goods`` what it bills (text, unit price in pence)."""

    name: str
    short: str
    code: str
    address: tuple[str, str]
    vat: str
    layout: int
    ref: str
    goods: tuple[tuple[str, int], ...]
    aliases: tuple[str, ...] = ()


PARTIES = (
    DemoParty("Tollgate Timber", "tollgate", "tt", ("Sawmill Lane", "Upper Wick"), "XV 204 1178 33", 0, "TT-{:05d}",
              (("Larch boards 25 mm, 4.2 m", 3150), ("Oak crooks, selected", 5800), ("Delivery", 4000))),
    DemoParty("Brine Lane Chandlery", "brine-lane", "blc", ("14 Brine Lane", "Saltmarsh"), "XV 310 9921 07", 1, "{:04d}",
              (("Copper rivets and roves, 1 kg", 2240), ("Tarred marline, 50 m", 1175), ("Bronze cleats", 1860))),
    DemoParty("Lowtide Paints", "lowtide-paints", "low", ("Quay Works", "Port Ellery"), "XV 118 4400 52", 2, "{:05d}",
              (("Undercoat, grey, 5 l", 6120), ("Varnish, spar, 2.5 l", 5490), ("Linseed oil, raw, 5 l", 2375))),
    DemoParty("Penmarrow Harbour Office", "penmarrow", "pho", ("Harbour House", "Penmarrow"), "XV 900 0001 11", 3, "B-{:04d}",
              (("Berth rent, visiting pontoon", 18400), ("Crane hour", 9600)), ("Penmarrow Harbour",)),
    DemoParty("Corvid Electrical", "corvid", "cor", ("Unit 6, Saltern Yard", "Saltmarsh"), "XV 551 2043 90", 1, "C-{:04d}",
              (("Slipway light, replaced", 6800), ("Cable, 3 core, per metre", 240), ("Test and certificate", 4500))),
    DemoParty("Halyard Print", "halyard-print", "hal", ("2 Bell Yard", "Upper Wick"), "XV 430 7765 18", 2, "26-{:04d}",
              (("Course handbooks, 40 copies", 18600), ("Open day posters", 5200))),
    DemoParty("Quayside Insurance Mutual", "quayside", "qim", ("80 Custom Row", "Port Ellery"), "XV 770 3312 64", 3, "P-{:05d}",
              (("Yard and slipway cover, quarter", 61250), ("Launch cover", 12400)), ("Quayside Mutual",)),
    DemoParty("Fenwright Sailmakers", "fenwright", "fen", ("The Old Loft", "Penmarrow"), "XV 265 8810 47", 0, "F{:05d}",
              (("Lugsail, tan, repaired", 14800), ("Reef points, set", 3600))),
    DemoParty("Marram Water", "marram", "mar", ("1 Reservoir Road", "Upper Wick"), "XV 611 5029 83", 1, "MW{:06d}",
              (("Water supply, metered", 8730), ("Standing charge", 2150))),
    DemoParty("Samphire Bank", "samphire", "sam", ("9 Custom Row", "Port Ellery"), "XV 802 6674 29", 2, "{:05d}",
              (("Account charges, quarter", 1800),)),
)  # fmt: skip
