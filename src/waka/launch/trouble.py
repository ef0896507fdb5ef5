"""What can go wrong at start, in words: what it is, and what to do."""


class Trouble(Exception):
    """``what`` happened, and what to ``mend``."""

    def __init__(self, what: str, mend: str) -> None:
        super().__init__(f"{what}\n{mend}")
        self.what, self.mend = what, mend
