"""Words for modifiers and keys in other languages, as keyboards and handbooks print them.

A word that stands for different keys in two languages is left out. ``_`` is a blank.
"""

import re

#: The modifier, and its words by language.
MODIFIER_WORDS = {
    "Ctrl": {
        "de": "strg steuerung",
        "fr": "contrôle",
        "es": "control",
        "it": "controllo",
        "hu": "vezérlő",
        "el": "έλεγχος",
        "zh": "控制键",
        "ko": "컨트롤",
        "ja": "コントロール",
    },
    "Alt": {
        "fr": "option",
        "it": "opzione",
        "es": "opción",
        "pt": "opção",
        "nl": "optie",
    },
    "Shift": {
        "de": "umschalt umsch hochstell",
        "fr": "maj majuscule",
        "es": "mayús mayúsculas mayus",
        "it": "maiusc maiuscolo",
        "pt": "maiúsc maiúsculas",
        "da": "skift",
        "no": "skift",
        "sv": "skift",
        "fi": "vaihto",
        "cs": "přeřaďovač",
        "ru": "шифт",
        "zh": "上档",
        "ko": "시프트",
        "ja": "シフト",
    },
    "Meta": {
        "de": "befehl befehlstaste",
        "fr": "commande",
        "it": "comando",
        "es": "comando",
        "nl": "opdracht",
    },
}


def words_of(modifier: str) -> list[str]:
    """The words of all languages for a modifier, the longest first, as parts of a pattern."""
    words = {word for text in MODIFIER_WORDS[modifier].values() for word in text.split()}
    return [re.escape(word.replace("_", " ")) for word in sorted(words, key=len, reverse=True)]


#: Words between two keys of which both do it, alone on a line of a cell.
AND_WORDS = ["and", "und", "et", "e", "en", "och", "og", "ja", "oraz", "i", "и", "y"]

#: Words between two keys of which each will do, between two strokes of a run, and for no key.
OR_WORDS = [
    "or",
    "oder",
    "ou",
    "of",
    "eller",
    "tai",
    "lub",
    "nebo",
    "vagy",
    "veya",
    "или",
    "або",
    "ή",
    "または",
    "또는",
    "或",
    "或者",
]
THEN_WORDS = frozenset(
    [
        "then",
        "dann",
        "puis",
        "luego",
        "poi",
        "depois",
        "daarna",
        "derefter",
        "sedan",
        "potem",
        "затем",
    ]
)
NO_KEY_WORDS = frozenset(
    "keine kein ohne nicht_belegt aucun aucune ninguno ninguna nessuno nessuna nenhum nenhuma geen "
    "ingen inget brak żaden žádná nincs yok нет немає καμία なし 없음 无 無".replace(
        "_", " "
    ).split()
) | {"nicht belegt", "non assegnato", "sin asignar", "non assigné", "não atribuído"}


def by_word(words: dict[str, dict[str, str]]) -> dict[str, str]:
    """Each word (in lower case) with what it stands for."""
    return {
        word.replace("_", " "): name
        for name, by_language in words.items()
        for text in by_language.values()
        for word in text.split()
    }
