"""The half that proposals were made with."""

from tests.core.judging.brought.drawing import Brought, First
from tests.core.judging.brought.forms import (
    EMBLEM,
    MARK,
    PLATED_MARK,
    above,
    badge,
    beside,
    flag,
    framed_in_line,
    gradient,
    in_ring,
    in_word,
    monogram,
    on_ground,
    right_of,
    several,
    shadowed,
    tile,
    two_lines,
    with_stray,
    words_alone,
)

_PEOPLE = (
    '<g fill="#0e7490"><circle cx="120" cy="110" r="46"/><path d="M60 330q0-150 60-150t60 150z"/></g>'
    '<g fill="#f59e0b"><circle cx="250" cy="150" r="38"/><path d="M200 330q0-120 50-120t50 120z"/></g>'
)
DEVELOPED: tuple[Brought, ...] = (
    beside("left, sans", "leaf", "Fernhollow", "rubik 600 normal", "#15803d"),
    beside("left, italic serif", "backpack", "Tallow & Fig", "lora 500 italic", "#dc2645"),
    beside("left, word in another colour", "anchor", "Tarn Mill", "barlow 700 normal", "#c2410c", "#57534e"),
    beside("left, thin", "beer", "Marl", "lora 400 normal", "#c0392b", stroke=1.1),
    beside("left, dark", "infinity", "Wicket", "noto-sans 600 normal", "#111111", first=PLATED_MARK),
    beside("left, pale", "repeat", "Verdigris", "lora 500 italic", "#f3e7c9", first=PLATED_MARK),
    beside("very wide", "ship", "Lumen Yard of the Lower Marshes", "barlow 600 normal", "#4338ca"),
    beside("wide symbol of the word's strokes", "waves", "Brook", "nunito 700 normal", "#0369a1", stroke=3),
    right_of("right, mono", "zap", "Gantry", "atkinson-hyperlegible-mono 700 normal", "#b45309", "#1f2937"),
    above("above", "fish", "Brackwater", "lora 600 italic", "#e11d48"),
    above(
        "above, tagline", "tree-pine", "Pinewater", "rubik 700 normal", "#166534", tagline="BOATS AND SAILS SINCE 1931"
    ),
    above("above, rule", "mountain", "Coldpeak", "playfair-display 700 normal", "#1e3a8a", rule=True),
    words_alone("words, sans", "Quillon", "noto-sans 600 normal", "#4338ca"),
    words_alone("words, bold italic", "Dovecote", "lora 700 italic", "#1e3a5f"),
    words_alone("words, condensed", "Harrowgate", "barlow-condensed 700 normal", "#9d174d"),
    words_alone("words, hand", "Merrow", "caveat 700 normal", "#0f766e"),
    words_alone("words, lower case", "tideline", "nunito 800 normal", "#0891b2"),
    two_lines("two lines", "Lantern", "house of glass", "playfair-display 700 normal", "#7c2d12", "#a8a29e"),
    in_ring("ring", "fish-symbol", "LOWER QUAY MARKET", "rubik 600 normal", "#0f4c5c"),
    in_ring("ring of two lines", "building", "FATHOM AND DAUGHTERS", "barlow 700 normal", "#4338ca", lines=2),
    badge("badge with words", "croissant", "NORTH GATE BAKERY", "rubik 700 normal", "#7c2d12", "#fde68a"),
    badge("badge alone", "bird", "", "", "#1d4ed8", "#ffffff"),
    badge("rounded badge", "flower", "", "", "#be185d", "#fdf2f8", shape="rounded"),
    badge("badge with a fade", "cloud", "", "", "", "#ffffff", ground=gradient("fade", "#38bdf8", "#1d4ed8")),
    tile("tile", "key", "#065f46", "#ecfdf5"),
    tile("tile with a fade down", "music", "", "#ffffff", ("#f97316", "#be123c", 0, 1)),
    on_ground("jpeg on white", "spline", "Penhallow", "noto-sans 600 normal", "#7e1d5f", "#ffffff", MARK, jpeg=70),
    on_ground("pale on white, jpeg", "tag", "Nettle", "lora 500 normal", "#ecdcae", "#ffffff", PLATED_MARK, jpeg=85),
    on_ground(
        "on a dark ground",
        "lamp",
        "Lanternlit",
        "rubik 600 normal",
        "#fde68a",
        "#111827",
        First(EMBLEM, MARK.stands | {"own"}),
    ),
    monogram("monogram in a ring", "HB", "playfair-display 700 normal", "#14532d"),
    monogram("monogram on a disc", "KR", "rubik 700 normal", "#4c1d95", "#ffffff"),
    in_word("symbol in the word", "sun", "HOLM", 1, "rubik 700 normal", "#1f2937", "#d97706"),
    framed_in_line("in a frame line", "scissors", "Shear & Co", "barlow 600 normal", "#9f1239"),
    with_stray("with a small TM", "feather", "Ostler", "rubik 600 normal", "#4338ca"),
    shadowed("soft shadow", "gem", "Cairn", "rubik 700 normal", "#b91c1c", 8, "#00000080"),
    flag("flag", ("#166534", "#ffffff", "#c2410c"), down=False),
    several("two figures", _PEOPLE, "Wayfarer", "nunito 700 normal", "#0e7490"),
)
