"""What people call a trade or thing, and the symbols that stand for it; names of the Lucide set, chosen by us."""

SUBJECTS: dict[str, tuple[str, ...]] = {
    "animal": ("paw-print", "dog", "cat", "bird", "fish"),
    "baker": ("croissant", "wheat", "cookie"),
    "bakery": ("croissant", "wheat", "cookie"),
    "bank": ("landmark", "piggy-bank", "coins"),
    "barber": ("scissors",),
    "bicycle": ("bike",),
    "bread": ("croissant", "wheat"),
    "builder": ("hammer", "brick-wall", "house"),
    "butcher": ("beef", "ham"),
    "cafe": ("coffee", "croissant", "cookie"),
    "carpenter": ("hammer", "ruler", "axe"),
    "clinic": ("stethoscope", "heart-pulse", "hospital"),
    "concert": ("guitar", "eighth-notes", "mic"),
    "cook": ("chef-hat", "utensils"),
    "court": ("scale", "gavel"),
    "dentist": ("toothbrush", "stethoscope"),
    "doctor": ("stethoscope", "heart-pulse"),
    "electrician": ("plug", "zap", "lightbulb"),
    "farm": ("tractor", "wheat", "sprout"),
    "ferry": ("ship", "anchor", "sailboat"),
    "florist": ("flower", "flower-2", "leaf"),
    "garden": ("flower", "sprout", "shovel"),
    "gym": ("dumbbell",),
    "hair": ("scissors",),
    "harbour": ("anchor", "ship", "sailboat"),
    "hotel": ("bed", "concierge-bell", "key"),
    "jeweller": ("gem", "crown"),
    "law": ("scale", "gavel"),
    "lawyer": ("scale", "gavel"),
    "library": ("book-open", "library"),
    "mechanic": ("wrench", "car"),
    "music": ("eighth-notes", "guitar", "headphones"),
    "news": ("newspaper", "megaphone"),
    "painter": ("paint-roller", "palette", "brush"),
    "pharmacy": ("pill", "cross"),
    "photographer": ("camera", "aperture"),
    "plumber": ("wrench", "droplet"),
    "restaurant": ("utensils", "chef-hat", "wine"),
    "school": ("graduation-cap", "school", "book-open"),
    "shop": ("store", "shopping-bag", "shopping-basket"),
    "sport": ("trophy", "dumbbell", "medal"),
    "tailor": ("scissors", "shirt"),
    "taxi": ("car-taxi-front", "car"),
    "theatre": ("drama", "ticket"),
    "tree": ("tree-pine", "tree-deciduous", "trees"),
    "travel": ("plane", "luggage", "map"),
    "vet": ("paw-print", "stethoscope"),
    "weather": ("cloud-sun", "sun", "umbrella"),
}

KINDS: dict[str, tuple[str, ...]] = {
    "Harbour and travel": ("ferry", "harbour", "travel", "taxi", "bicycle", "hotel"),
    "Food and drink": ("bakery", "cafe", "butcher", "restaurant"),
    "Nature and weather": ("garden", "florist", "tree", "farm", "animal", "weather"),
    "Craft and building": ("builder", "carpenter", "painter", "plumber", "electrician", "mechanic", "tailor"),
    "Health and care": ("clinic", "dentist", "pharmacy", "vet", "hair"),
    "Culture and sport": ("music", "concert", "theatre", "photographer", "news", "sport", "gym"),
    "Shop, law and learning": ("shop", "jeweller", "bank", "law", "library", "school"),
}
"""Subjects by kind, to be looked through before any word is typed."""


def browsed() -> dict[str, tuple[str, ...]]:
    """The names of symbols of each kind, none twice."""
    return {
        kind: tuple(dict.fromkeys(name for subject in subjects for name in SUBJECTS[subject]))
        for kind, subjects in KINDS.items()
    }
