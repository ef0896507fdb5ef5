"""Spans of the calendar: months and years end where a shorter month ends; beyond the years 1 to 9999 is the first or last day."""

from datetime import date, timedelta

_DAYS = {"day": 1, "week": 7}
_MONTHS = {"month": 1, "year": 12}
_LONG = (31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


def moved(day: date, span: str, times: int = 1) -> date:
    """A day moved by a canonical span (``2 weeks``), ``times`` 1 or -1."""
    count, _, unit = span.partition(" ")
    unit = unit.removesuffix("s")
    if unit in _DAYS:
        try:
            return day + timedelta(days=times * int(count) * _DAYS[unit])
        except OverflowError:
            return date.max if times > 0 else date.min
    months = day.year * 12 + day.month - 1 + times * int(count) * _MONTHS[unit]
    year, month = divmod(months, 12)
    if not 1 <= year <= 9999:
        return date.max if times > 0 else date.min
    return date(year, month + 1, min(day.day, last_day(year, month + 1)))


def last_day(year: int, month: int) -> int:
    """The last day of a month."""
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    return 28 if month == 2 and not leap else _LONG[month - 1]


def day_of(value: str, today: date) -> date:
    """The day that a canonical value of a date means."""
    if not value.startswith("today"):
        return date.fromisoformat(value)
    _, sign, span = (*value.split(" ", 2), "", "")[:3]
    return moved(today, span, 1 if sign == "+" else -1) if sign else today
