-- Planned times in which jobs are not expected to start: once, or whenever a cron expression says so.
create table job_window (
    id         bigint generated always as identity primary key,
    name       text   not null,
    scope      text   not null check (scope in ('ALL', 'APPLICATION', 'CHAIN', 'JOB')),
    scope_name text   not null,
    once_at    timestamptz,
    cron       text   not null,
    zone       text   not null,
    minutes    int    not null check (minutes > 0),
    reason     text   not null,
    version    int    not null default 1,
    check ((once_at is null) <> (cron = ''))
);
