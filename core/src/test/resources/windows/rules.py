"""Makes rules.csv, the begins of recurring windows by another implementation of RFC 5545 (python-dateutil 2.9.0):

    python3 rules.py > rules.csv

A line is: rule; the same in Morvet's words, or nothing; first begin; zone; begins, as minutes since 1970 in UTC, each but the first
as the difference from the one before. A begin that the clock leaves out is as much later as the clock was put forward; one that is
there twice is meant the first time (RFC 5545, 3.3.5).
"""
from datetime import datetime
from zoneinfo import ZoneInfo

from dateutil import tz
from dateutil.rrule import rrulestr

END = datetime(2036, 1, 1)
ZONES = ["Europe/Helsinki", "America/Santiago", "Australia/Lord_Howe"]
RULES = [
    ("FREQ=WEEKLY;BYDAY=TU", "every Tuesday at {t}", "2026-01-06T22:40"),
    ("FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH", "every 2 weeks on Tuesday, Thursday from 2026-01-06 at {t}", "2026-01-06T22:40"),
    ("FREQ=WEEKLY;BYDAY=SU", "every Sunday at {t}", "2026-01-04T03:30"),
    ("FREQ=WEEKLY;BYDAY=SA,SU", "every Saturday, Sunday at {t}", "2026-01-03T00:10"),
    ("FREQ=WEEKLY;BYDAY=SU", "every Sunday at {t}", "2026-01-04T02:15"),
    ("FREQ=MONTHLY;BYDAY=2TU", "on the second Tuesday of the month at {t}", "2026-01-13T22:40"),
    ("FREQ=MONTHLY;BYDAY=5WE", "on the fifth Wednesday of the month at {t}", "2026-04-29T06:00"),
    ("FREQ=MONTHLY;BYDAY=-1FR", "on the last Friday of the month at {t}", "2026-01-30T18:00"),
    ("FREQ=MONTHLY;BYMONTHDAY=-1", "on the last day of the month at {t}", "2026-01-31T23:30"),
    ("FREQ=MONTHLY;BYMONTHDAY=31", "on day 31 of the month at {t}", "2026-01-31T01:30"),
    ("FREQ=MONTHLY;BYMONTHDAY=1,15", "on day 1, 15 of the month at {t}", "2026-01-01T01:30"),
    ("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1", "on the last working day of the month at {t}", "2026-01-30T19:00"),
    ("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=3", "on the third working day of the month at {t}", "2026-01-05T19:00"),
    ("FREQ=YEARLY;BYMONTH=3,6;BYDAY=1MO", "on the first Monday of the month in March, June at {t}", "2026-03-02T05:00"),
    ("FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU", "", "2026-03-29T03:30"),
    ("FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU", "", "2026-10-25T03:30"),
    ("FREQ=YEARLY;BYMONTH=9,4;BYDAY=SU", "", "2026-04-05T00:15"),
    ("FREQ=DAILY;INTERVAL=10", "", "2026-01-01T03:15"),
    ("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29", "", "2028-02-29T12:00"),
    ("FREQ=WEEKLY;COUNT=60", "", "2026-01-07T12:00"),
    ("FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=1,15", "", "2026-01-01T02:00"),
    ("FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO", "", "2026-05-11T08:00"),
    ("FREQ=YEARLY;BYYEARDAY=100,-1", "", "2026-04-10T08:00"),
    ("FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", "", "2026-02-13T13:13"),
    ("FREQ=WEEKLY;BYDAY=MO;UNTIL=20270301T220000", "", "2026-01-05T22:00"),
]

for rule, words, start in RULES:
    first = datetime.fromisoformat(start)
    for zone in ZONES:
        at = []
        for begin in rrulestr("RRULE:" + rule, dtstart=first):
            if begin >= END:
                break
            there = tz.resolve_imaginary(begin.replace(tzinfo=ZoneInfo(zone), fold=0))
            at.append(int(there.timestamp()) // 60)
        steps = [at[0]] + [b - a for a, b in zip(at, at[1:])]
        print(";".join(part.replace(";", "|") for part in (
            rule, words.format(t=start[11:]), start, zone, " ".join(map(str, steps)))))
