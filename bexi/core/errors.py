"""The family of refusals: bad input and failed work, told to programs by a code and to people by a sentence."""


class Refusal(Exception):
    """Something Bexi will not do.

    `code` is stable kebab-case for programs; `sentence` says what is wrong and what to do.
    """

    def __init__(self, code: str, sentence: str) -> None:
        super().__init__(sentence)
        self.code = code
        self.sentence = sentence

    def __reduce__(self) -> tuple[type["Refusal"], tuple[str, str]]:
        """Refusals pass between processes."""
        return type(self), (self.code, self.sentence)


class ArtworkRefused(Refusal):
    """Bytes that cannot become artwork."""


class FramingRefused(Refusal):
    """A frame, ground or recipe that makes no icon."""


class BuildFailed(Refusal):
    """A built file that did not pass its own reading-back."""


class HeadRefused(Refusal):
    """A page whose head cannot be edited with certainty."""


class HostRefused(Refusal):
    """A path, folder or file of a site that Bexi will not touch or cannot reach."""


class InstallRefused(Refusal):
    """An installation or undo that was not begun, or was put back."""


class ChangedSince(InstallRefused):
    """An undo that has to ask first: somebody changed the file at `path` since it was installed."""

    def __init__(self, path: str) -> None:
        super().__init__(
            "changed-since",
            f"{path} was changed since it was installed. Say whether to restore the old file or to keep this one.",
        )
        self.path = path


class PlanRefused(Refusal):
    """A set plan, or a wish for one file, that cannot be met."""
