"""A front end that was tried, and the answer in words."""

from __future__ import annotations

from dataclasses import dataclass

from ....job.changes import Change
from ....job.profile import Profile
from ....units.phrases import listed, say
from ....units.quantities import Gauge, Phrase, Quantity
from ....units.severity import State


@dataclass(frozen=True)
class Option:
    """One front end tried: the weakest margin [dB] and which carrier has it, the least room to the
    level window at any outlet [dB], the amplifier's composite output against its rating [dBµV]."""

    key: str
    name: str
    margin_db: float
    weakest: str
    window_db: float
    lowest_dbuv: float
    highest_dbuv: float
    load: Gauge
    noise_figure_db: float | None
    state: State
    now: bool


@dataclass(frozen=True)
class FrontEnd:
    """The answer, its reason in two sentences and the options behind it. `change` is what to take,
    None where the run is so already."""

    title: str
    reason: Phrase
    options: list[Option]
    advised: str
    change: Change | None
    strongest: list[tuple[str, float, bool]]
    mobile_words: Phrase
    beyond_help: str


def fits(option: Option, profile: Profile) -> bool:
    return (
        option.margin_db >= profile.margin_db
        and option.window_db >= 0
        and option.load.state != "fail"
    )


def stands(margin_db: float) -> str:
    """How far over or under its threshold something stands, in words."""
    side = "over" if margin_db >= 0 else "under"
    return f"{abs(margin_db):.1f} dB {side} its threshold"


def said(best: Option, bare: Option, options: list[Option], profile: Profile) -> tuple[str, Phrase]:
    """The answer and its reason in two sentences."""
    needs = f"{profile.margin_db:g} dB"
    amps = [o for o in options if "preamp" in o.key]
    gain = max((o.margin_db for o in amps if o.load.state != "fail"), default=bare.margin_db)
    adds = max(gain - bare.margin_db, 0.0)
    if best.key == "none":
        if fits(best, profile):
            return (
                "No preamplifier",
                (
                    f"Without one the weakest, {bare.weakest}, stands {stands(bare.margin_db)} where {needs} "
                    f"are wanted, and every level is in its window. One would add {adds:.1f} dB and one more "
                    "thing that fails.",
                ),
            )
        overloaded = bool(amps) and all(o.load.state == "fail" for o in amps)
        why = (
            "Every preamplifier would be overloaded by what comes down with it"
            if overloaded
            else f"The best one would add {adds:.1f} dB, because the antenna's own signal decides"
        )
        return (
            "A preamplifier does not help",
            (
                f"The weakest, {bare.weakest}, stands {stands(bare.margin_db)} where {needs} are wanted. {why}: "
                "take more antenna, or a better spot.",
            ),
        )
    if best.key.startswith("attenuator"):
        return (
            f"{best.name}, no preamplifier",
            (
                f"The strongest carrier reaches an outlet {-bare.window_db:.1f} dB over its window. The "
                f"attenuator brings it in, and leaves the weakest {stands(best.margin_db)}.",
            ),
        )
    word = "Filter and preamplifier" if "+" in best.key else "Preamplifier"
    first: Phrase = (
        (
            f"Without one the weakest, {bare.weakest}, stands {stands(bare.margin_db)} where {needs} are "
            "wanted.",
        )
        if bare.margin_db < profile.margin_db
        else say(
            "Without one the lowest level at an outlet is {}, under its window.",
            Quantity(bare.lowest_dbuv, "dbuv", 0),
        )
    )
    second = say(
        " With it close to the antenna, where the loss behind it no longer counts, the weakest stands {} "
        "and the lowest level is {}",
        stands(best.margin_db),
        Quantity(best.lowest_dbuv, "dbuv", 0),
    )
    if "+" in best.key:
        plain = next((o for o in options if o.key == best.key.split("+", 1)[1]), None)
        over = (plain.load.value or 0) - (plain.load.high or 0) if plain else 0.0
        second += (
            f"; without the filter the sum of all signals would overload it by {max(over, 0):.0f} dB",
        )
    if not fits(best, profile):
        second += (", which is still short: a better heading, spot or antenna comes first",)
    return f"{word}: {best.name}", listed([first, second, "."], "")
