"""Apply changes: what each verb does to a job, and what else it changes with it.
The verbs themselves are in `core/job/changes.py`.
"""

from .apply import Applied, ChangeContext, carry_out, words_of

__all__ = ["Applied", "ChangeContext", "carry_out", "words_of"]
