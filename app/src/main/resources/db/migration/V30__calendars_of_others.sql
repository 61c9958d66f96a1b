-- Planned work as calendars of others have it, and what became of it.
create table window_event (
    connection_id bigint      not null references outside_connection on delete cascade,
    uid           text        not null,
    title         text        not null,
    text          text        not null,
    -- When it is, as a window has it.
    plan          jsonb       not null,
    state         text        not null check (state in ('WAITS', 'WINDOW', 'LEFT_OUT', 'GONE')),
    window_id     bigint references maintenance_window,
    decided_by    bigint references person,
    seen_at       timestamptz not null,
    primary key (connection_id, uid)
);
create index window_event_waiting on window_event (connection_id) where state = 'WAITS';

-- What came of the latest look at each calendar.
create table window_calendar_look (
    connection_id bigint primary key references outside_connection on delete cascade,
    at            timestamptz not null,
    events        int         not null,
    -- Faults, a line each; empty where all was read.
    faults        text        not null
);
