-- What people said brings about trouble of what: the next time it is taken for its cause.
create table known_cause (
    component_id bigint      not null references component,
    cause_id     bigint      not null references component,
    person_id    bigint      not null references person,
    said_at      timestamptz not null,
    primary key (component_id, cause_id),
    check (component_id <> cause_id)
);
create index known_cause_by_cause on known_cause (cause_id);

-- When an origin raised alerts, for how often two went together and what was there before.
create index alert_by_origin on alert (origin_kind, origin_id, raised_at);

-- A step of a fix note that somebody has done for a case; it is known by its words.
create table case_step (
    case_id   bigint      not null references work_case,
    step      bytea       not null,
    person_id bigint      not null references person,
    done_at   timestamptz not null,
    primary key (case_id, step)
);
