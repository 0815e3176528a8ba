"""Changes carried out: what each verb does to a job, and what goes along with it."""

from .carried import Bench, CarriedOut, carry_out, words_of

__all__ = ["Bench", "CarriedOut", "carry_out", "words_of"]
