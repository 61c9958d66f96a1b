create table guard (
    id         bigint generated always as identity primary key,
    name       text not null unique,
    active     boolean not null,
    watched    jsonb not null,
    rule       jsonb not null,
    fix_note   text not null,
    version    int not null,
    changed_at timestamptz not null,
    changed_by bigint references person (id),
    deleted    boolean not null default false
);

create table guard_state (
    guard_id     bigint not null references guard (id),
    component_id bigint not null references component (id),
    evaluated_to timestamptz not null,
    level        text check (level in ('WARNING', 'CRITICAL')),
    raised_at    timestamptz,
    calm_since   timestamptz,
    clear_since  timestamptz,
    value        double precision not null,
    worst        double precision not null,
    primary key (guard_id, component_id)
);

create table alert (
    id           bigint generated always as identity primary key,
    guard_id     bigint not null references guard (id),
    component_id bigint not null references component (id),
    raised_at    timestamptz not null,
    level        text not null check (level in ('NOTICE', 'WARNING', 'CRITICAL')),
    value        double precision not null,
    worst        double precision not null,
    cleared_at   timestamptz
);
-- One raised alert for a guard on a subject.
create unique index alert_raised on alert (guard_id, component_id) where cleared_at is null;
