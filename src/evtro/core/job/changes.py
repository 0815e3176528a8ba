"""A change of a job as a value: a few verbs, each a plain statement of what is wanted. A remedy
carries one, history keeps it, a device sends it again after a conflict.

Values are figures in the unit of their column, or text as somebody typed it; `changes.typed` reads
it. An id that is not there yet can be named: a row that is added as `$a` is `$a` to what follows.
"""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ..units.quantities import InputError, SeenState

MOST_IN_ONE = 400

Rows = Annotated[str, Field(max_length=40)]
Name = Annotated[str, Field(pattern=r"^(\$[a-z]+|[a-z]+[0-9]+)$", max_length=12)]
Values = dict[Annotated[str, Field(max_length=40)], Any]
Typed = Annotated[float | str, Field(union_mode="left_to_right")]
Key = Annotated[str, Field(max_length=40)]


class _Verb(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def _whole(values: Values) -> Values:
    try:
        json.dumps(values, ensure_ascii=False, allow_nan=False).encode("utf-8")
    except UnicodeEncodeError as error:
        raise InputError(
            "",
            "it holds half a character.",
            "Type it again; the file may have been cut in two.",
            "control-character",
        ) from error
    except (ValueError, RecursionError) as error:
        raise InputError(
            "", "it holds what is no figure.", "Type figures, such as 3.5 or 3,5.", "no-number"
        ) from error
    return values


class Add(_Verb):
    """Put a row at the end of a list. With `as_is` the values are all there is to it, and nothing
    goes along."""

    verb: Literal["add"] = "add"
    rows: Rows
    values: Annotated[Values, AfterValidator(_whole), Field(max_length=100)] = {}
    as_is: bool = False
    called: Annotated[str, Field(pattern=r"^\$[a-z]+$", max_length=12)] | None = None


class Set(_Verb):
    """Give fields of a row other values; a kind of which there is one, and the job itself (`job`),
    have no id. With `as_is` the values are all there is to it, and nothing goes along."""

    verb: Literal["set"] = "set"
    rows: Rows
    id: Name | Literal[""] = ""
    values: Annotated[Values, AfterValidator(_whole), Field(max_length=100)]
    as_is: bool = False


class Remove(_Verb):
    """Take a row away, with what cannot be without it. A part between two cables leaves them
    joined."""

    verb: Literal["remove"] = "remove"
    rows: Rows
    id: Name


class Insert(_Verb):
    """Put a part behind another part, into a cable, or at the beginning of a run."""

    verb: Literal["insert"] = "insert"
    type: Key
    after: Name | None = None
    port: Annotated[int, Field(ge=0, le=63)] | None = None
    into: Name | None = None
    antenna: Name | None = None
    outlet: Name | None = None
    cable: Key = "rg6"
    length_m: Typed = 0.5
    setting_db: Annotated[float, Field(ge=0, le=60)] | None = None
    called: Annotated[str, Field(pattern=r"^\$[a-z]+$", max_length=12)] | None = None


class Replace(_Verb):
    """Put another part in a part's place; its cables stay."""

    verb: Literal["replace"] = "replace"
    part: Name
    type: Key


class Join(_Verb):
    """Join a part's free output to a free input of another one."""

    verb: Literal["join"] = "join"
    part: Name
    to: Name
    to_port: Annotated[int, Field(ge=0, le=63)] | None = None
    cable: Key = "rg6"
    length_m: Typed = 0.5


class CopyBranch(_Verb):
    """Put a part and everything behind it once more behind another part, with outlets of their own."""

    verb: Literal["copy"] = "copy"
    part: Name
    after: Name
    port: Annotated[int, Field(ge=0, le=63)] | None = None
    floor: Annotated[str, Field(max_length=80)] = ""
    called: Annotated[str, Field(pattern=r"^\$[a-z]+$", max_length=12)] | None = None


class LeadFrom(_Verb):
    """Lead a part, with what hangs behind it, from another part's free output."""

    verb: Literal["lead"] = "lead"
    part: Name
    after: Name
    port: Annotated[int, Field(ge=0, le=63)] | None = None


class Move(_Verb):
    """Move the mount over the ground, to another height above it too; what was surveyed from it is
    seen from there."""

    verb: Literal["move"] = "move"
    bearing_deg: Annotated[float, Field(ge=-360, le=360)]
    distance_m: Annotated[float, Field(ge=0, le=300)]
    height_m: Annotated[float | None, Field(ge=0, le=100)] = None


class Model(_Verb):
    """Put an antenna of the catalogue in a terrestrial antenna's place."""

    verb: Literal["model"] = "model"
    array: Name
    key: Key


class Front(_Verb):
    """Hang a front end right under a terrestrial antenna, such as `filter-694+preamp-22`, or take it
    away: `none`."""

    verb: Literal["front"] = "front"
    array: Name
    key: Annotated[str, Field(max_length=120)]


class Second(_Verb):
    """Put a second terrestrial antenna of the same kind beside one, combined with it."""

    verb: Literal["second"] = "second"
    array: Name
    first_deg: Typed
    second_deg: Typed


class Stand(_Verb):
    """Build a terrestrial antenna where it was held: what was read there becomes the source."""

    verb: Literal["stand"] = "stand"
    spot: Name


class LearnScale(_Verb):
    """Learn how much too high the tool reads, from what it shows on the peaked satellite."""

    verb: Literal["learn-scale"] = "learn-scale"
    dish: Name
    reads: Typed


class LearnCompass(_Verb):
    """Learn how much too high the compass reads here, from one bearing that is known."""

    verb: Literal["learn-compass"] = "learn-compass"
    dish: Name
    reads: Typed
    bearing: Typed


class Anew(_Verb):
    """Begin an axis of a dish anew: its readings go, those of the main feed where none is named."""

    verb: Literal["anew"] = "anew"
    dish: Name
    axis: Literal["azimuth", "elevation", "skew"]
    target: Name | Literal[""] = ""


class Arrive(_Verb):
    """Set up again at a stop: the place changes, what the kit has learned stays, and what belongs to
    the last place, its readings and its obstructions, goes."""

    verb: Literal["arrive"] = "arrive"
    stop: Name


class OwnLimit(_Verb):
    """Give the job a limit of its own over its practice's; an empty value takes it away again."""

    verb: Literal["limit"] = "limit"
    field: Annotated[str, Field(max_length=80)]
    value: Typed


class PutOnLine(_Verb):
    """Put evenly spaced carriers on the company's line, in place of those that are on it."""

    verb: Literal["line"] = "line"
    low_mhz: Typed
    high_mhz: Typed
    every_mhz: Typed
    modulation: Key


class SeenNow(_Verb):
    """How one thing of a step was seen."""

    state: SeenState
    torque_nm: Typed | None = None
    note: Annotated[str, Field(max_length=200)] = ""


class Tick(_Verb):
    """Tick a step, confirm its danger by name, keep what was measured, what was seen of its things, or a note.
    With `left` it is left as it is, and why. `waited_s` is how long ago it was done, by the device's own clock;
    `minutes` how long it takes whoever does it here, empty for the usual time."""

    verb: Literal["tick"] = "tick"
    step: Annotated[str, Field(pattern=r"^[a-z0-9.-]{1,60}$")]
    done: bool | None = None
    danger_read: bool | None = None
    by: Annotated[str, Field(max_length=80)] | None = None
    value: Typed | None = None
    note: Annotated[str, Field(max_length=2000)] | None = None
    left: Annotated[str, Field(max_length=200)] | None = None
    seen: Annotated[dict[Annotated[str, Field(max_length=60)], SeenNow], Field(max_length=200)] = {}
    minutes: Typed | None = None
    waited_s: Annotated[float, Field(ge=0)] = 0.0


class Several(_Verb):
    """Several changes as one, in their order: all of them or none. `words` is what history calls it."""

    verb: Literal["several"] = "several"
    words: Annotated[str, Field(max_length=80)]
    changes: Annotated[tuple[Change, ...], Field(max_length=MOST_IN_ONE)]


# What is done to an antenna, at a place or at a step as a whole.
Action = (
    Model
    | Front
    | Second
    | Stand
    | LearnScale
    | LearnCompass
    | Anew
    | Arrive
    | PutOnLine
    | OwnLimit
    | Tick
)
Change = Annotated[
    Add | Set | Remove | Insert | Replace | Join | CopyBranch | LeadFrom | Move | Action | Several,
    Field(discriminator="verb"),
]
Several.model_rebuild()
