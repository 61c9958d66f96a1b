-- Calendars of holidays.
create table holiday_calendar (
    id         bigint generated always as identity primary key,
    name       text  not null unique,
    holidays   jsonb not null,
    version    int   not null default 1
);

-- What is agreed about each job; a job that was first heard of by a run of it has nothing agreed yet.
create table job (
    component_id bigint primary key references component (id),
    feed_id      bigint references feed (id),
    definition   jsonb  not null,
    fix_note     text   not null default '',
    -- Whether people have looked at it; until then its schedule is only proposed.
    agreed       boolean not null,
    held_since   timestamptz,
    -- Before this nothing was expected of it.
    known_since  timestamptz not null,
    version      int    not null default 1,
    changed_at   timestamptz not null
);
create table job_version (
    component_id bigint not null references job (component_id),
    version      int    not null,
    at           timestamptz not null,
    by_id        bigint references person (id),
    definition   jsonb  not null,
    fix_note     text   not null,
    primary key (component_id, version)
);

create table job_run (
    id           bigint generated always as identity primary key,
    component_id bigint not null references component (id),
    feed_id      bigint not null references feed (id),
    -- The scheduler's own name for it.
    run_ref      text   not null,
    -- When it began to be: its start, or its end where no start was told.
    at           timestamptz not null,
    started_at   timestamptz,
    ended_at     timestamptz,
    ended_as     text check (ended_as in ('FINE', 'WARNED', 'FAILED', 'CANCELLED')),
    meant_at     timestamptz,
    started_by   text not null check (started_by in ('SCHEDULE', 'RETRY', 'BY_HAND')),
    exit_code    int,
    records      bigint,
    percent      double precision,
    percent_at   timestamptz,
    node         text not null,
    reason       text not null,
    check ((ended_at is null) = (ended_as is null)),
    check (started_at is not null or ended_at is not null)
);
create unique index job_run_by_ref on job_run (component_id, run_ref);
create index job_run_by_job on job_run (component_id, at desc);
create index job_run_by_time on job_run (at);
create table run_output (
    run_id bigint primary key references job_run (id),
    output text    not null,
    -- Whether its beginning is missing.
    cut    boolean not null
);

create table file_arrival (
    name text        not null,
    at   timestamptz not null,
    primary key (at, name)
);

-- Every start that was expected, and what became of it.
create table expected_start (
    component_id bigint      not null references component (id),
    cycle        timestamptz not null,
    planned      timestamptz not null,
    deadline     timestamptz,
    outcome      text        not null,
    run_id       bigint references job_run (id),
    primary key (component_id, cycle)
);
create index expected_start_by_cycle on expected_start (cycle);
create index expected_start_by_run on expected_start (run_id);

create table run_guard (
    id             bigint generated always as identity primary key,
    name           text    not null,
    trouble        text    not null,
    scope          text    not null check (scope in ('ALL', 'APPLICATION', 'CHAIN', 'JOB')),
    scope_name     text    not null,
    severity       text    not null check (severity in ('NOTICE', 'WARNING', 'CRITICAL')),
    below          int     not null,
    critical_below int     not null,
    owner_id       bigint references team (id),
    fix_note       text    not null,
    active         boolean not null,
    deleted        boolean not null default false,
    version        int     not null default 1
);
-- Alerts over runs that are up.
create table run_alert (
    guard_id     bigint not null references run_guard (id),
    component_id bigint not null references component (id),
    raised_at    timestamptz not null,
    level        text   not null,
    value        double precision not null,
    worst        double precision not null,
    words        text   not null,
    -- Which start, or which run that was not expected, it is about.
    occasion     text   not null,
    primary key (guard_id, component_id)
);
alter table alert add column run_guard_id bigint references run_guard (id);
alter table alert drop constraint alert_source;
alter table alert add constraint alert_source check (num_nonnulls(guard_id, rule_id, run_guard_id) = 1);
create unique index alert_raised_over_runs on alert (group_key, run_guard_id) where cleared_at is null and run_guard_id is not null;
alter table case_alert add column run_guard_id bigint references run_guard (id);

-- Where a scheduler takes orders, and how many jobs it runs at once.
create table scheduler (
    feed_id bigint primary key references feed (id),
    url     text not null,
    path    text not null,
    headers text not null,
    -- 0 where it is not limited.
    slots   int  not null,
    version int  not null default 1
);
create table scheduler_order (
    id           bigint generated always as identity primary key,
    component_id bigint not null references component (id),
    run_ref      text   not null,
    kind         text   not null check (kind in ('RERUN', 'HOLD', 'RELEASE', 'KILL')),
    at           timestamptz not null,
    by_id        bigint not null references person (id),
    state        text   not null check (state in ('WAITING', 'DONE', 'REFUSED', 'GIVEN_UP')),
    words        text   not null,
    tries        int    not null default 0,
    done_at      timestamptz
);
create index scheduler_order_by_job on scheduler_order (component_id, id desc);
