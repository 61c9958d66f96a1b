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

-- Where to look further: addresses in other tools, filled with the facts of what they are opened from.
create table link_out (
    id       bigint generated always as identity primary key,
    -- Of what: everything of an application, all of a kind, one component, a failure family; by its key, word or number.
    about    text not null check (about in ('application', 'kind', 'component', 'family')),
    subject  text not null check (length(subject) <= 200),
    name     text not null check (length(name) between 1 and 80),
    template text not null check (length(template) <= 2000),
    unique (about, subject, name)
);

-- Into which shifts a day is divided, as people typed it; one row.
create table shift_plan (
    one_row boolean primary key default true check (one_row),
    text    text not null check (length(text) <= 1000)
);

-- A handover that is sent to those who are not there to read it.
alter table delivery
    add column handover_id bigint references handover,
    drop constraint delivery_of_one,
    add constraint delivery_of_one check (num_nonnulls(case_id, window_id, component_id, rule_id, handover_id) = 1);
