"""What is to be said of the pictures of a page: of those that are not used although they are there, and those outside."""

from collections.abc import Iterable, Iterator, Mapping

from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.markup.elements import Element
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.records import dataclass
from redcrate.core.style.property_parsers import Url
from redcrate.core.style.styling import StyledTree
from redcrate.core.units import first_of


@dataclass(frozen=True, slots=True)
class PictureFile:
    """What there is to say of a picture's file.

    fault: why it is not used though it is there, as the end of a sentence. outside: its name where it lies outside the
    page's folder.
    """

    fault: str = ""
    outside: str = ""


NOTHING_TO_SAY = PictureFile()


def used_pictures(styled: StyledTree, sizes: Mapping[Element, IntrinsicSize | None]) -> Iterator[str]:
    """The addresses of the pictures that a page shows: of elements and of their grounds and markers."""
    for element, size in sizes.items():
        if size is not None:
            yield element.attributes.get("src", "")
    for style in {id(s): s for s in styled.styles.values()}.values():
        for image in (*style.background_image, style.list_style_image):
            if isinstance(image, Url):
                yield image.address


def missing_picture(element: Element, file: PictureFile) -> str:
    """The sentence about an image that is not shown."""
    address = element.attributes.get("src", "")[:80]
    if file.fault:
        return f"the image “{address}” of {element.label} {file.fault}."
    return f"the image of {element.label} was not found: “{address}”."


def outside_notice(names: Iterable[str], page: str) -> list[Notice]:
    """One notice of all files outside the page's folder; somebody else's page may name them on purpose."""
    told = list(dict.fromkeys(name for name in names if name))
    if not told:
        return []
    sentence = f"files outside the page's folder are used: {first_of(told)}."
    return [Notice(NoticeKind.OUTSIDE_FOLDER, sentence, page)]
