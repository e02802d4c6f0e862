"""The table of words for keys, which an application and a file format have."""

from collections.abc import Callable, Mapping

from olive_compass.core.wording import capital
from olive_compass.desk.texts.schemas import Mistake


def words_of(
    table: Mapping[str, str], mistakes: list[Mistake], is_plain: Callable[[str, str], bool]
) -> dict[str, str]:
    """The words, each with ours; what is wrong is added to ``mistakes``. Plain words are kept as they are."""
    found = {}
    for word, ours in table.items():
        if is_plain(word, ours):
            found[word] = ours
            continue
        # Loaded here: a person has written it by hand, or there are words for single signs.
        from olive_compass.core.keys.new_words import checked

        try:
            name, key = checked(word, ours)
        except ValueError as error:
            mistakes.append(Mistake(("spelling", word), f"{capital(error)}."))
        else:
            found[name] = key
    return found
