-- Maintenance windows, over whatever part of the estate; those over jobs go with them.
create table window_key (
    id         bigint generated always as identity primary key,
    name       text        not null,
    hash       bytea       not null unique,
    -- Whether windows can be opened with it, or only their calendar read.
    opens      boolean     not null,
    over       jsonb       not null,
    minutes    int         not null check (minutes > 0),
    made_at    timestamptz not null,
    made_by    bigint references person,
    revoked_at timestamptz
);
create table maintenance_window (
    id         bigint generated always as identity primary key,
    name       text    not null,
    over       jsonb   not null,
    effect     text    not null check (effect in ('NONE', 'HOLD', 'PAUSE')),
    jobs       text    not null check (jobs in ('AS_EVER', 'NOT_EXPECTED')),
    -- When it begins: once, or as a rhythm says, whose holidays are of a calendar.
    first_at   timestamptz,
    again      text    not null,
    calendar   text    not null,
    zone       text    not null,
    minutes    int     not null check (minutes > 0),
    until      date,
    -- Single times that are left out, and that are at another.
    skipped    jsonb   not null,
    altered    jsonb   not null,
    reason     text    not null,
    -- Whether what was open before is quiet while it is on.
    quiet      boolean not null,
    made_by    bigint references person,
    -- By which key it was opened, and under which name of who opened it: the same name twice opens one.
    opened_by  bigint references window_key,
    opened_as  text,
    version    int     not null default 1,
    deleted_at timestamptz,
    unique (opened_by, opened_as),
    check ((first_at is null) <> (again = ''))
);
insert into maintenance_window (id, name, over, effect, jobs, first_at, again, calendar, zone, minutes, skipped, altered, reason, quiet, version)
    overriding system value
select id, name, over, 'NONE', 'NOT_EXPECTED', once_at, case when cron = '' then '' else 'cron ' || cron end, '', zone, minutes, '[]', '{}', reason,
       false, version
  from job_window;
select setval(pg_get_serial_sequence('maintenance_window', 'id'), (select coalesce(max(id), 0) + 1 from maintenance_window), false);
drop table job_window;

create table window_version (
    window_id bigint      not null references maintenance_window,
    version   int         not null,
    at        timestamptz not null,
    by_id     bigint references person,
    sentence  text        not null,
    primary key (window_id, version)
);

-- Each time that a window has been on, as it was then.
create table window_time (
    window_id bigint      not null references maintenance_window,
    meant     timestamp   not null,
    from_at   timestamptz not null,
    to_at     timestamptz not null,
    ended_at  timestamptz,
    primary key (window_id, meant)
);
create index window_time_open on window_time (to_at) where ended_at is null;
create index window_time_latest on window_time (from_at);

-- What windows held, and until when.
create table held_alert (
    alert_id    bigint primary key references alert on delete cascade,
    window_id   bigint      not null references maintenance_window,
    meant       timestamp   not null,
    until       timestamptz not null,
    paused      boolean     not null,
    -- Its value when its window was over, where it stands on what happened inside alone.
    rests_at    double precision,
    released_at timestamptz
);
create index held_alert_of_window on held_alert (window_id, meant);
-- What a window would have held is looked up in the past.
create index alert_raised on alert (raised_at);
create index alert_held_up on alert (id) where held and cleared_at is null;
