"""Troubles: recognised by a short key of questions, from what the keeper answers and what the record shows."""

from typing import Annotated

from fastapi import APIRouter, Query

from salttide.core.basics.number_text import percent, show_number
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.programme.file import against
from salttide.core.trouble.known import known_answers, known_facts
from salttide.core.trouble.recognise import LOOK, Likely, recognise
from salttide.core.trouble.table import FACTS, Question, questions

from .context import In
from .models import Caution, Choice, Id, Model, caution_shown

router = APIRouter(prefix="/api/systems/{system_id}/troubles", tags=["trouble"])


class KeyQuestion(Model):
    """A question of the key with its answers; how: of a closer look, how it is done."""

    key: str
    text: str
    how: str
    answers: list[Choice]


class KeyAnswer(Model):
    """An answer that counts; by_record: given by the latest visual check, not by a tap."""

    question: str
    answer: str
    text: str
    words: str
    by_record: bool


class LikelyShown(Model):
    """A likely trouble with its share of belief, what speaks for and against it, and what is done first."""

    key: str
    name: str
    about: str
    share: int
    words: str
    speaks_for: list[str]
    against: list[str]
    first: str
    caution: Caution | None
    programmes: list[Choice]


class TroubleKey(Model):
    """Where the key stands: what counts, the next question (null: no more is asked), the likely troubles, best first,
    and the closer look that would tell the first two apart."""

    name: str
    ask: KeyQuestion | None
    answered: list[KeyAnswer]
    known: list[str]
    likely: list[LikelyShown]
    apart: KeyQuestion | None


Pairs = Annotated[list[str], Query(max_length=40)]


@router.get("")
def key_of(
    system_id: Id, ctx: In, answers: Pairs = [], skipped: Pairs = [], unlike: Pairs = []  # noqa: B006
) -> TroubleKey:  # fmt: skip
    """The key after some answers (`question:answer`) and questions that were left out. unlike: questions whose answer
    by the record is not what the keeper means."""
    view = ctx.household.outlook(ctx.household.system(system_id))
    situation = view.basis.situation
    recorded, told = known_answers(situation), _told(answers)
    recorded = {name: answer for name, answer in recorded.items() if name not in unlike}
    counts, facts = {**recorded, **told}, known_facts(situation)
    found = recognise(counts, facts, skipped)
    begun = LOOK in counts
    return TroubleKey(
        name=view.system.name,
        ask=_question(found.ask),
        answered=[_answered(name, answer, name not in told) for name, answer in counts.items()],
        known=[FACTS[name].holds for name, holds in facts.items() if holds],
        likely=[_likely(one) for one in found.likely] if begun else [],
        apart=_question(found.apart) if begun else None,
    )


def _told(answers: list[str]) -> dict[str, str]:
    """Answers as they came. Raises InputError where a question or answer is not known."""
    found = {}
    for pair in answers:
        name, _, answer = pair.partition(":")
        if name not in questions() or answer not in questions()[name].answers:
            raise refused("trouble.no_such_answer", "answers")
        found[name] = answer
    return found


def _question(one: Question | None) -> KeyQuestion | None:
    if one is None:
        return None
    answers = [Choice(key=key, name=text) for key, text in one.answers.items()]
    return KeyQuestion(key=one.key, text=one.text, how=one.how, answers=answers)


def _answered(name: str, answer: str, by_record: bool) -> KeyAnswer:
    one = questions()[name]
    return KeyAnswer(question=name, answer=answer, text=one.text, words=one.answers[answer], by_record=by_record)


def _likely(one: Likely) -> LikelyShown:
    share = round(percent(one.share))
    return LikelyShown(
        key=one.kind.key,
        name=one.kind.name,
        about=one.kind.about,
        share=share,
        words=phrase("trouble.share", share=show_number(share, 0)),
        speaks_for=list(one.speaks_for),
        against=list(one.against),
        first=one.kind.first,
        caution=caution_shown(one.kind.caution) if one.kind.caution else None,
        programmes=[Choice(key=each.key, name=f"{each.name}, {each.school}") for each in against(one.kind.key)],
    )
