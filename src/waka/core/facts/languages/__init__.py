"""The words that documents use, as data: one table a language. A further language is a further table here."""

from waka.core.facts.languages.english import ENGLISH
from waka.core.facts.languages.german import GERMAN

LANGUAGES = (ENGLISH, GERMAN)
