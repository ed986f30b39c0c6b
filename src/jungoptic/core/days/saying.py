"""Rules, breaks and clashes in words."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import cast

from .broken import Break
from .clock import clock_text, duration_text, weekday_of
from .guests import Guest
from .on_the_day import Dropped
from .opening import Rule, hours_on
from .plan import Clash
from .records import LIGHTS, Condition, Light, Order, Person, Place, Shooting

_MONTHS = "January February March April May June July August September October November December".split()


def day_text(day: date) -> str:
    """A day as a call sheet says it.

    Parameters
    ----------
    day : date
        Any.

    Returns
    -------
    str
        Weekday, day and month.

    Examples
    --------
    >>> day_text(date(2027, 10, 16))
    'Sat 16 October'
    """
    return f"{weekday_of(day).capitalize()} {day.day} {_MONTHS[day.month - 1]}"


_IS = {
    "place": "place",
    "noise": "place",
    "models": "place",
    "needs": "condition",
    "clear": "condition",
}
_BREAKS = {
    "day": "{jobs}: {day} is none of the days.",
    "not_on": "{jobs} cannot be filmed on {day}.",
    "person": "Without {of} for {minutes} of {jobs}: {there}.",
    "place": "{of} is shut for {minutes} of {jobs}: {there}.",
    "noise": "No noise may be made at {of} for {minutes} of the takes of {jobs}.",
    "needs": "{jobs} needs {of}, which is not there for {minutes}: {there}.",
    "clear": "{of} falls into {minutes} of the takes of {jobs}.",
    "hour": "{jobs} wants {hour}: the sun is {degrees} too high or too low for it.",
    "sun": "The sun leaves the key of {jobs} by {degrees} more than it may.",
    "hidden": "The sun is behind the horizon during the takes of {jobs}.",
    "at_once": "{jobs} overlap by {minutes}.",
    "change": "{minutes} too little to change between {jobs}.",
    "shared": "{jobs} want {of} at one time, or on the way between: {minutes} too little.",
    "order": "{others} comes before {job} is done{why}.",
    "straight": "Something comes between {jobs}{why}.",
    "run": "{job} interrupts a run{why}.",
    "longest_day": "A day of {of} is {minutes} longer than it may be.",
    "most": "The time of {of} is {minutes} longer than was agreed in all.",
    "models": "{count} more models than can stand at {of} on one day.",
    "locked": "{jobs} is locked to {day}.",
}


class Words:
    """What a shooting calls things, and sentences about its rules."""

    def __init__(self, shooting: Shooting) -> None:
        self.shooting = shooting
        self.titles = {
            (kind, row.key): row.title
            for kind, rows in (
                ("job", shooting.jobs),
                ("person", shooting.people),
                ("place", shooting.places),
                ("condition", shooting.conditions),
            )
            for row in rows
        }
        self.orders: dict[tuple[str, str], Order] = {
            (order.first, order.then): order for order in shooting.order
        }

    def of_job(self, key: str) -> str:
        """What a job is called: its shots, and its name.

        Parameters
        ----------
        key : str
            Of the job.

        Returns
        -------
        str
            The key itself where there is no such job.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE
        >>> Words(EXAMPLE).of_job("cup")
        'The cup, both halves'
        """
        job = next((job for job in self.shooting.jobs if job.key == key), None)
        if job is None:
            return key
        shots = " and ".join(job.shots)
        return f"{shots} {job.title}" if shots else job.title

    def _jobs(self, keys: Sequence[str]) -> str:
        names = [self.of_job(key) for key in keys]
        return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"

    # --- what a plan breaks

    def of_break(self, fault: Break) -> str:
        """A broken rule as one sentence that says by how much.

        Parameters
        ----------
        fault : Break
            What :func:`plan_breaks` found.

        Returns
        -------
        str
            A sentence.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE, Booking, plan_breaks
        >>> late = [Booking(job="cup", date="2027-10-16", start="16:00")]
        >>> Words(EXAMPLE).of_break(plan_breaks(EXAMPLE, late)[0])
        'Without Orla for 1 h 04 of The cup, both halves: there 10:00 to 16:30.'
        """
        told = _BREAKS[fault.kind]
        words = {
            "jobs": self._jobs(fault.jobs),
            "job": self.of_job(fault.jobs[0]),
            "others": self._jobs(fault.jobs[1:]) if fault.jobs[1:] else "",
            "minutes": duration_text(round(fault.over)) if fault.over > 0 else "",
            "count": str(round(fault.over)),
            "degrees": f"{fault.over:.0f}°",
            "of": self._title(_IS.get(fault.kind, "person"), fault.of),
            "there": self._there(_IS.get(fault.kind, "person"), fault.of, fault.day),
            "day": day_text(fault.day) if fault.day else "its time",
            "hour": LIGHTS.get(cast(Light, fault.of), ""),
            "why": f": {fault.of}" if fault.of else "",
        }
        sentence = told.format(**words)
        return f"Waived: {sentence}" if fault.warns else sentence

    def _title(self, kind: str, key: str) -> str:
        return self.titles.get((kind, key), key)

    def _row(self, kind: str, key: str) -> Person | Place | Condition | None:
        rows: dict[str, Sequence[Person | Place | Condition]] = {
            "person": self.shooting.people,
            "place": self.shooting.places,
            "condition": self.shooting.conditions,
        }
        return next((row for row in rows[kind] if row.key == key), None)

    def _there(self, kind: str, key: str, day: date | None) -> str:
        row = self._row(kind, key)
        if row is None or day is None:
            return "not there"
        spans = hours_on(row.hours, getattr(row, "off", ()), day)
        there = " and ".join(f"{clock_text(start)} to {clock_text(end)}" for start, end in spans)
        return f"there {there}" if there else f"not there on {day_text(day)}"

    # --- rules that clash

    def of_rule(self, rule: Rule) -> str:
        """A rule in words.

        Parameters
        ----------
        rule : Rule
            One that a plan keeps.

        Returns
        -------
        str
            Without a full stop.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE, Rule
        >>> Words(EXAMPLE).of_rule(Rule("most", ("orla",)))
        'the time of Orla is 4 h in all'
        """
        key = rule.of[0] if rule.of else ""
        person = next((person for person in self.shooting.people if person.key == key), None)
        job = next((job for job in self.shooting.jobs if job.key == key), None)
        if rule.kind == "job" and job:
            return f"{self.of_job(key)} is filmed ({duration_text(job.minutes)})"
        if rule.kind == "person":
            return f"the hours of {self._title('person', key)} are {self._usually('person', key)}"
        if rule.kind == "longest_day" and person:
            return f"a day of {person.title} is {duration_text(person.longest_day_min)} at most"
        if rule.kind == "most" and person and person.most_min is not None:
            gone = f", {duration_text(person.spent_min)} of it gone" if person.spent_min else ""
            return f"the time of {person.title} is {duration_text(person.most_min)} in all{gone}"
        if rule.kind == "order":
            order = self.orders.get((rule.of[0], rule.of[1]))
            why = f", {order.why}" if order and order.why else ""
            return f"{self.of_job(rule.of[0])} comes before {self.of_job(rule.of[1])}{why}"
        if rule.kind == "sun" and job:
            return f"the sun is the key of {self.of_job(key)}, within " + (
                "Tight" if job.tight_will_do else "Holds"
            )
        if rule.kind == "hour" and job:
            return f"{self.of_job(key)} wants {LIGHTS[job.hour]}"
        told = {
            "place": f"{self._title('place', key)} is open only at {self._usually('place', key)}",
            "noise": f"noise at {self._title('place', key)} only at its hours",
            "needs": f"{self._title('condition', key)} is there only at {self._usually('condition', key)}",
            "clear": f"takes keep clear of {self._title('condition', key)}",
            "not_on": f"{self.of_job(key)} is not filmed on {self._days_of(key)}",
            "run": f"{self._jobs(rule.of)} are not interrupted",
            "models": f"not more models stand at {self._title('place', key)} than can",
            "locked": f"{self.of_job(key)} is locked",
        }
        return told[rule.kind]

    def _days_of(self, key: str) -> str:
        job = next((job for job in self.shooting.jobs if job.key == key), None)
        return ", ".join(day_text(day) for day in job.not_on) if job else ""

    def _usually(self, kind: str, key: str) -> str:
        row = self._row(kind, key)
        if row is None:
            return "no hours"
        told = []
        for span in row.hours:
            when = day_text(span.date) if span.date else "/".join(day.capitalize() for day in span.weekdays)
            told.append(f"{when} {clock_text(span.start)} to {clock_text(span.end)}".strip())
        if len(told) > 3:
            told = [*told[:3], "…"]
        off = getattr(row, "off", ())
        away = f" (not on {', '.join(day_text(day) for day in off[:3])})" if off else ""
        return (", ".join(told) or "all hours") + away

    def of_left_out(self, left: Sequence[str], clash: Clash | None) -> list[str]:
        """Why jobs are left out of a plan: the rules that clash, or that it is too much for the days.

        Parameters
        ----------
        left : sequence of str
            Keys of jobs.
        clash : Clash or None
            What planning found; None where nothing is proven.

        Returns
        -------
        list of str
            Sentences; none where nothing is left out.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE
        >>> Words(EXAMPLE).of_left_out(["cup"], None)[0]
        'No room was found for The cup, both halves (1 h 34), and nothing proves that there is none.'
        """
        if not left or clash is not None:
            return self.of_clash(clash) if clash is not None else []
        minutes = sum(job.minutes for job in self.shooting.jobs if job.key in left)
        return [
            f"No room was found for {self._jobs(left)} ({duration_text(minutes)}), and nothing proves that "
            "there is none.",
            "Another day, longer hours, or a job left out would make some; or try moving one by hand.",
        ]

    def of_dropped(self, dropped: Dropped) -> str:
        """What is left out of a day so that the rest fits, and what that loses, as a sentence.

        Parameters
        ----------
        dropped : Dropped
            The least that has to go.

        Returns
        -------
        str
            Which jobs, which shots lack a plate then, and whether another day can have them.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE, Dropped
        >>> Words(EXAMPLE).of_dropped(Dropped(("cup",), ("TM030",), ("cup",)))
        'Without The cup, both halves the rest fits. TM030 waits for it; another day can have it.'
        """
        several = len(dropped.jobs) > 1
        lost = [key for key in dropped.jobs if key not in dropped.elsewhere]
        what = "them" if several else "it"
        if not lost:
            where = f"another day can have {what}"
        elif len(lost) == len(dropped.jobs):
            where = f"no other day can have {what}"
        else:
            where = f"no other day can have {self._jobs(lost)}"
        waits = "wait" if len(dropped.loses) > 1 else "waits"
        return (
            f"Without {self._jobs(dropped.jobs)} the rest fits. "
            f"{', '.join(dropped.loses)} {waits} for {what}; {where}."
        )

    def of_guest(self, guest: Guest) -> str:
        """What somebody's limited time has to spare, and what is lost if it takes longer.

        Parameters
        ----------
        guest : Guest
            Of a plan.

        Returns
        -------
        str
            A sentence or two.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE, Guest, Loss
        >>> cup = Loss(146, ("cup",), ("TM030",))
        >>> Words(EXAMPLE).of_guest(Guest("orla", 240, 94, (cup,))).split(". ")[1]
        'If it takes more than 2 h 26 longer, this is lost: The cup, both halves.'
        """
        called, most = duration_text(guest.called_min), duration_text(guest.most_min)
        told = f"{self._title('person', guest.person)} called for {called} of {most} in all."
        for number, loss in enumerate(guest.losses):
            longer = f"more than {duration_text(loss.from_min)}" if loss.from_min else "any"
            lost = self._jobs(loss.jobs)
            told += f"; {longer}, {lost}" if number else f" If it takes {longer} longer, this is lost: {lost}"
        return f"{told}." if guest.losses else told

    def of_clash(self, clash: Clash) -> list[str]:
        """Rules that cannot all be kept, and what would mend it, as sentences.

        Parameters
        ----------
        clash : Clash
            What planning found.

        Returns
        -------
        list of str
            What clashes, then each thing that would mend it.

        Examples
        --------
        >>> from jungoptic.core.days import EXAMPLE, Clash, Rule
        >>> Words(EXAMPLE).of_clash(Clash((Rule("most", ("orla",)), Rule("job", ("cup",))), ()))[0]
        'These cannot all be: the time of Orla is 4 h in all; The cup, both halves is filmed (1 h 34).'
        """
        jobs = [rule for rule in clash.rules if rule.kind == "job"]
        others = [rule for rule in clash.rules if rule.kind != "job"]
        words = [self.of_rule(rule) for rule in others]
        if len(jobs) > 3:
            every = [job for job in self.shooting.jobs if any(rule.of[0] == job.key for rule in jobs)]
            minutes = duration_text(sum(job.minutes for job in every))
            words.append(f"{len(jobs)} jobs are filmed ({minutes} without changes)")
        else:
            words += [self.of_rule(rule) for rule in jobs]
        told = [f"These cannot all be: {'; '.join(words)}."]
        told += [f"It could be done without this: {self.of_rule(rule)}." for rule in clash.mends]
        return told
