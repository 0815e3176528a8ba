"""Changes carried out: what each verb does to a job, and what goes along with it."""

from .carried import Bench, carry_out, words_of

__all__ = ["Bench", "carry_out", "words_of"]
