"""From every colour space of CSS to sRGB and back: Color 4 §10 and its sample code (§18), with the standard's own figures.

Coordinates are as the standard writes them: red, green, blue 0–1; hue in degrees; lightness of lab 0–100, of oklab 0–1.
"""

import colorsys
from collections.abc import Callable
from math import atan2, copysign, cos, degrees, hypot, radians, sin
from typing import TypeAlias

Triple: TypeAlias = tuple[float, float, float]
_Matrix: TypeAlias = tuple[Triple, Triple, Triple]

_SRGB_TO_XYZ: _Matrix = (
    (506752 / 1228815, 87881 / 245763, 12673 / 70218),
    (87098 / 409605, 175762 / 245763, 12673 / 175545),
    (7918 / 409605, 87881 / 737289, 1001167 / 1053270),
)
_XYZ_TO_SRGB: _Matrix = (
    (12831 / 3959, -329 / 214, -1974 / 3959),
    (-851781 / 878810, 1648619 / 878810, 36519 / 878810),
    (705 / 12673, -2585 / 12673, 705 / 667),
)
_P3_TO_XYZ: _Matrix = (
    (608311 / 1250200, 189793 / 714400, 198249 / 1000160),
    (35783 / 156275, 247089 / 357200, 198249 / 2500400),
    (0.0, 32229 / 714400, 5220557 / 5000800),
)
_A98_TO_XYZ: _Matrix = (
    (573536 / 994567, 263643 / 1420810, 187206 / 994567),
    (591459 / 1989134, 6239551 / 9945670, 374412 / 4972835),
    (53769 / 1989134, 351524 / 4972835, 4929758 / 4972835),
)
_PROPHOTO_TO_XYZ_D50: _Matrix = (
    (0.79776664490064230, 0.13518129740053308, 0.03134773412839220),
    (0.28807482881940130, 0.71183523424187300, 0.00008993693872564),
    (0.0, 0.0, 0.82510460251046020),
)
_REC2020_TO_XYZ: _Matrix = (
    (63426534 / 99577255, 20160776 / 139408157, 47086771 / 278816314),
    (26158966 / 99577255, 472592308 / 697040785, 8267143 / 139408157),
    (0.0, 19567812 / 697040785, 295819943 / 278816314),
)
_D50_TO_D65: _Matrix = (
    (0.955473421488075, -0.02309845494876471, 0.06325924320057072),
    (-0.0283697093338637, 1.0099953980813041, 0.021041441191917323),
    (0.012314014864481998, -0.020507649298898964, 1.330365926242124),
)
_D65_TO_D50: _Matrix = (
    (1.0479297925449969, 0.022946870601609652, -0.05019226628920524),
    (0.02962780877005599, 0.9904344267538799, -0.017073799063418826),
    (-0.009243040646204504, 0.015055191490298152, 0.7518742814281371),
)
_XYZ_TO_LMS: _Matrix = (
    (0.8190224379967030, 0.3619062600528904, -0.1288737815209879),
    (0.0329836539323885, 0.9292868615863434, 0.0361446663506424),
    (0.0481771893596242, 0.2642395317527308, 0.6335478284694309),
)
_LMS_TO_OKLAB: _Matrix = (
    (0.2104542683093140, 0.7936177747023054, -0.0040720430116193),
    (1.9779985324311684, -2.4285922420485799, 0.4505937096174110),
    (0.0259040424655478, 0.7827717124575296, -0.8086757549230774),
)
_OKLAB_TO_LMS: _Matrix = (
    (1.0, 0.3963377773761749, 0.2158037573099136),
    (1.0, -0.1055613458156586, -0.0638541728258133),
    (1.0, -0.0894841775298119, -1.2914855480194092),
)
_LMS_TO_XYZ: _Matrix = (
    (1.2268798758459243, -0.5578149944602171, 0.2813910456659647),
    (-0.0405757452148008, 1.1122868032803170, -0.0717110580655164),
    (-0.0763729366746601, -0.4214933324022432, 1.5869240198367816),
)
_WHITE: Triple = (0.3457 / 0.3585, 1.0, (1.0 - 0.3457 - 0.3585) / 0.3585)
_KAPPA, _EPSILON = 24389 / 27, 216 / 24389
_BEND, _FOOT = 1.09929682680944, 0.018053968510807  # of rec2020


def _times(matrix: _Matrix, v: Triple) -> Triple:
    a, b, c = (row[0] * v[0] + row[1] * v[1] + row[2] * v[2] for row in matrix)
    return a, b, c


def _each(curve: Callable[[float], float], v: Triple) -> Triple:
    return curve(v[0]), curve(v[1]), curve(v[2])


def _srgb_linear(v: float) -> float:
    size = abs(v)
    return v / 12.92 if size <= 0.04045 else copysign(((size + 0.055) / 1.055) ** 2.4, v)


def _srgb_curved(v: float) -> float:
    size = abs(v)
    return v * 12.92 if size <= 0.0031308 else copysign(1.055 * size ** (1 / 2.4) - 0.055, v)


def _rec2020_linear(v: float) -> float:
    size = abs(v)
    return v / 4.5 if size < _FOOT * 4.5 else copysign(((size + _BEND - 1) / _BEND) ** (1 / 0.45), v)


def _prophoto_linear(v: float) -> float:
    size = abs(v)
    return v / 16 if size <= 16 / 512 else copysign(size**1.8, v)


def _a98_linear(v: float) -> float:
    return copysign(abs(v) ** (563 / 256), v)


def _lab_to_d50(v: Triple) -> Triple:
    f1 = (v[0] + 16) / 116
    f0, f2 = v[1] / 500 + f1, f1 - v[2] / 200

    def back(f: float) -> float:
        return f**3 if f**3 > _EPSILON else (116 * f - 16) / _KAPPA

    y = f1**3 if v[0] > _KAPPA * _EPSILON else v[0] / _KAPPA
    return back(f0) * _WHITE[0], y * _WHITE[1], back(f2) * _WHITE[2]


def _d50_to_lab(v: Triple) -> Triple:
    f0, f1, f2 = (
        s ** (1 / 3) if s > _EPSILON else (_KAPPA * s + 16) / 116
        for s in (v[0] / _WHITE[0], v[1] / _WHITE[1], v[2] / _WHITE[2])
    )
    return 116 * f1 - 16, 500 * (f0 - f1), 200 * (f1 - f2)


def _oklab_to_xyz(v: Triple) -> Triple:
    return _times(_LMS_TO_XYZ, _each(lambda c: c**3, _times(_OKLAB_TO_LMS, v)))


def _xyz_to_oklab(v: Triple) -> Triple:
    root = _each(lambda c: copysign(abs(c) ** (1 / 3), c), _times(_XYZ_TO_LMS, v))
    return _times(_LMS_TO_OKLAB, root)


def _straight(v: Triple) -> Triple:
    """From chroma and hue to the two axes."""
    return v[0], v[1] * cos(radians(v[2])), v[1] * sin(radians(v[2]))


def _round(v: Triple) -> Triple:
    """From the two axes to chroma and hue."""
    return v[0], hypot(v[1], v[2]), degrees(atan2(v[2], v[1])) % 360


def _hsl_to_srgb(v: Triple) -> Triple:
    return colorsys.hls_to_rgb((v[0] / 360) % 1, v[2] / 100, v[1] / 100)


def _srgb_to_hsl(v: Triple) -> Triple:
    hue, light, full = colorsys.rgb_to_hls(*v)
    return hue * 360, full * 100, light * 100


def _hwb_to_srgb(v: Triple) -> Triple:
    white, black = v[1] / 100, v[2] / 100
    if white + black >= 1:
        return (white / (white + black),) * 3
    return _each(lambda c: c * (1 - white - black) + white, _hsl_to_srgb((v[0], 100, 50)))


def _srgb_to_hwb(v: Triple) -> Triple:
    return _srgb_to_hsl(v)[0], min(v) * 100, (1 - max(v)) * 100


# From each space to XYZ (D65).
_TO_XYZ: dict[str, Callable[[Triple], Triple]] = {
    "srgb": lambda v: _times(_SRGB_TO_XYZ, _each(_srgb_linear, v)),
    "srgb-linear": lambda v: _times(_SRGB_TO_XYZ, v),
    "display-p3": lambda v: _times(_P3_TO_XYZ, _each(_srgb_linear, v)),
    "a98-rgb": lambda v: _times(_A98_TO_XYZ, _each(_a98_linear, v)),
    "prophoto-rgb": lambda v: _times(
        _D50_TO_D65, _times(_PROPHOTO_TO_XYZ_D50, _each(_prophoto_linear, v))
    ),
    "rec2020": lambda v: _times(_REC2020_TO_XYZ, _each(_rec2020_linear, v)),
    "xyz": lambda v: v,
    "xyz-d65": lambda v: v,
    "xyz-d50": lambda v: _times(_D50_TO_D65, v),
    "lab": lambda v: _times(_D50_TO_D65, _lab_to_d50(v)),
    "lch": lambda v: _times(_D50_TO_D65, _lab_to_d50(_straight(v))),
    "oklab": _oklab_to_xyz,
    "oklch": lambda v: _oklab_to_xyz(_straight(v)),
}
# From XYZ (D65) to the spaces that colours are mixed in.
_FROM_XYZ: dict[str, Callable[[Triple], Triple]] = {
    "srgb": lambda v: _each(_srgb_curved, _times(_XYZ_TO_SRGB, v)),
    "srgb-linear": lambda v: _times(_XYZ_TO_SRGB, v),
    "xyz": lambda v: v,
    "xyz-d65": lambda v: v,
    "xyz-d50": lambda v: _times(_D65_TO_D50, v),
    "lab": lambda v: _d50_to_lab(_times(_D65_TO_D50, v)),
    "lch": lambda v: _round(_d50_to_lab(_times(_D65_TO_D50, v))),
    "oklab": _xyz_to_oklab,
    "oklch": lambda v: _round(_xyz_to_oklab(v)),
}
_OF_SRGB = {"hsl": (_hsl_to_srgb, _srgb_to_hsl), "hwb": (_hwb_to_srgb, _srgb_to_hwb)}
HUES = {"hsl": 0, "hwb": 0, "lch": 2, "oklch": 2}  # which coordinate is an angle


def converted(space: str, to: str, v: Triple) -> Triple | None:
    """The coordinates of a colour in another space; None where one of the two is not known."""
    if space in _OF_SRGB:
        space, v = "srgb", _OF_SRGB[space][0](v)
    if to in _OF_SRGB:
        inner = converted(space, "srgb", v)
        return None if inner is None else _OF_SRGB[to][1](inner)
    if space == to:
        return v
    if space not in _TO_XYZ or to not in _FROM_XYZ:
        return None
    return _FROM_XYZ[to](_TO_XYZ[space](v))
