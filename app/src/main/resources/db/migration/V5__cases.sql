create table work_case (
    id            bigint generated always as identity primary key,
    state         text not null check (state in ('NEW', 'TAKEN', 'HANDED_OFF', 'SETTLED')),
    component_id  bigint not null references component (id),
    severity      text not null check (severity in ('NOTICE', 'WARNING', 'CRITICAL')),
    headline      text not null,
    opened_at     timestamptz not null,
    first_seen    timestamptz not null,
    last_seen     timestamptz not null,
    failures      bigint not null default 0,
    over_since    timestamptz,
    taken_by      bigint references person (id),
    quiet_until   timestamptz,
    returned      boolean not null default false,
    return_reason text not null default '',
    settled_at    timestamptz,
    settle_reason text,
    version       int not null default 1
);
-- The open work, however many settled cases there are.
create index work_case_open on work_case (component_id) where state <> 'SETTLED';
create index work_case_settled on work_case (settled_at desc, id desc) where state = 'SETTLED';
create index work_case_by_component on work_case (component_id, settled_at desc);

create table case_alert (
    alert_id    bigint primary key references alert (id),
    case_id     bigint not null references work_case (id),
    guard_id    bigint not null references guard (id),
    level       text not null check (level in ('NOTICE', 'WARNING', 'CRITICAL')),
    value       double precision not null,
    worst       double precision not null,
    raised_at   timestamptz not null,
    cleared_at  timestamptz,
    at_settling double precision
);
create index case_alert_by_case on case_alert (case_id);

create table case_entry (
    id        bigint generated always as identity primary key,
    case_id   bigint not null references work_case (id),
    at        timestamptz not null,
    person_id bigint references person (id),
    kind      text not null,
    words     text not null,
    undo      jsonb
);
create index case_entry_by_case on case_entry (case_id, at, id);
