"""Words that stand above the columns of a listing, by language."""

import re

#: For each field its words (folded to lower case, ``_`` for a blank), the surest first.
HEADINGS = {
    "keys": {
        "en": "keys key shortcut shortcuts hotkey hotkeys keystroke keystrokes accelerator keyboard "
        "binding keybinding keybindings combination trigger",
        "de": "tastenkürzel kürzel tastenkombination tastaturkürzel tasten taste kurzbefehl",
        "fr": "raccourci raccourcis touche touches raccourci_clavier combinaison",
        "es": "atajo atajos teclas tecla combinación",
        "it": "scorciatoia scorciatoie tasti tasto combinazione",
        "pt": "atalho atalhos teclas tecla combinação",
        "nl": "sneltoets sneltoetsen toets toetsen toetscombinatie",
        "da": "genvej genveje genvejstast genvejstaster tast taster",
        "no": "snarvei snarveier hurtigtast hurtigtaster tast",
        "sv": "kortkommando kortkommandon snabbtangent tangent tangenter genväg",
        "fi": "pikanäppäin pikanäppäimet näppäin näppäimet näppäinyhdistelmä",
        "pl": "skrót skróty klawisz klawisze",
        "cs": "zkratka zkratky klávesa klávesy klávesová_zkratka",
        "hu": "gyorsbillentyű gyorsbillentyűk billentyű billentyűparancs",
        "tr": "kısayol kısayollar tuş tuşlar",
        "ru": "клавиши клавиша сочетание сочетания горячая_клавиша комбинация",
        "uk": "клавіші клавіша сполучення комбінація",
        "el": "συντόμευση συντομεύσεις πλήκτρο πλήκτρα",
        "ja": "ショートカット ショートカットキー キー キー操作",
        "ko": "단축키 키 바로_가기_키",
        "zh": "快捷键 快速键 按键 組合鍵 快捷鍵",
    },
    "id": {"en": "id identifier code internal token"},
    "title": {
        "en": "title command commands action function name operation tool label item",
        "de": "befehl befehle funktion aktion name bezeichnung werkzeug",
        "fr": "commande commandes fonction action nom outil",
        "es": "comando comandos función acción nombre orden herramienta",
        "it": "comando comandi funzione azione nome strumento",
        "pt": "comando comandos função ação nome ferramenta",
        "nl": "opdracht opdrachten functie actie naam",
        "da": "kommando kommandoer funktion handling navn",
        "no": "kommando kommandoer funksjon handling navn",
        "sv": "kommando kommandon funktion åtgärd namn",
        "fi": "komento komennot toiminto nimi",
        "pl": "polecenie polecenia funkcja akcja nazwa",
        "cs": "příkaz příkazy funkce akce název",
        "hu": "parancs parancsok funkció művelet név",
        "tr": "komut komutlar işlev eylem ad",
        "ru": "команда команды функция действие название",
        "uk": "команда команди функція дія назва",
        "el": "εντολή εντολές λειτουργία ενέργεια όνομα",
        "ja": "コマンド 機能 操作 名前 コマンド名",
        "ko": "명령 명령어 기능 작업 이름",
        "zh": "命令 功能 操作 名称 指令",
    },
    "menu": {
        "en": "menu path location group category section where tab ribbon place",
        "de": "menü menüpfad pfad ort gruppe kategorie bereich",
        "fr": "chemin emplacement groupe catégorie rubrique",
        "es": "menú ruta ubicación grupo categoría",
        "it": "percorso posizione gruppo categoria",
        "pt": "caminho localização grupo categoria",
        "nl": "pad plaats groep categorie",
        "da": "sti placering gruppe kategori",
        "sv": "meny sökväg plats grupp kategori",
        "fi": "valikko polku sijainti ryhmä",
        "pl": "ścieżka miejsce grupa kategoria",
        "cs": "nabídka cesta umístění skupina",
        "hu": "menü útvonal hely csoport",
        "tr": "menü yol konum grup",
        "ru": "меню путь раздел группа",
        "uk": "меню шлях розділ група",
        "el": "μενού διαδρομή ομάδα",
        "ja": "メニュー 場所 分類",
        "ko": "메뉴 위치 분류",
        "zh": "菜单 位置 分类 選單",
    },
    "modes": {
        "en": "mode modes context when scope situation used available window area",
        "de": "modus modi kontext verwendung",
        "fr": "modes contexte",
        "es": "modo modos contexto",
        "it": "modalità contesto",
        "nl": "modus context",
        "pl": "tryb kontekst",
        "ru": "режим",
        "ja": "モード",
        "zh": "模式",
    },
    "kind": {"en": "kind type", "de": "art typ"},
    "does": {
        "en": "does description help purpose tooltip meaning effect explanation comment notes",
        "de": "beschreibung erklärung wirkung effekt hinweis",
        "fr": "description effet remarque",
        "es": "descripción efecto",
        "it": "descrizione effetto",
        "pt": "descrição efeito",
        "nl": "beschrijving uitleg effect",
        "da": "beskrivelse effekt",
        "no": "beskrivelse effekt",
        "sv": "beskrivning effekt",
        "fi": "kuvaus",
        "pl": "opis działanie efekt",
        "cs": "popis",
        "hu": "leírás",
        "tr": "açıklama",
        "ru": "описание",
        "uk": "опис",
        "el": "περιγραφή",
        "ja": "説明",
        "ko": "설명",
        "zh": "说明 描述",
    },
}

#: All words for a field, those of one language after those of another.
WORDS = {
    field: tuple(word.replace("_", " ") for words in by_language.values() for word in words.split())
    for field, by_language in HEADINGS.items()
}

#: Words for everywhere in a column of modes (folded: lower case, without accents).
EVERYWHERE = frozenset(
    "* all any everywhere anywhere global general always any_window all_windows all_modes uberall alle "
    "jederzeit partout tous toujours global todas_partes siempre todos ovunque sempre tutti overal altijd "
    "overalt allestedes overallt kaikkialla wszedzie vsude mindenhol heryerde везде всюду общие всюди "
    "παντου すべて 全般 모두 전체 全局 全部 任何".replace("_", " ").split()
) | {"any window", "all windows", "all modes", "en todas partes"}


#: How headings begin, and end, that only say that keys follow.
_OF_KEYS = re.compile(
    r"^\s*(?:keyboard\s+)?(?:shortcuts?|short-?cut\s+keys?|keys)(?:\s+keys?)?\s+(?:for|in|while|when|with|to|of)\s+(?:the\s+)?"
    r"|\s+(?:keyboard\s+)?(?:shortcuts?(?:\s+keys?)?|keys)\s*$",
    re.I,
)


def without_keys(heading: str) -> str:
    """A heading without what only says that keys follow.

    >>> without_keys("Keyboard shortcuts for tables"), without_keys("View keys"), without_keys("Shortcut keys")
    ('Tables', 'View', 'Shortcut keys')
    """
    rest = _OF_KEYS.sub("", heading)
    if rest.lower() in ("", "shortcut", "keyboard", "keyboard shortcut"):
        return heading
    return rest[:1].upper() + rest[1:]
