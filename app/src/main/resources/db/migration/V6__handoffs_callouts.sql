create table desk_connection (
    id           bigint generated always as identity primary key,
    key          text not null unique,
    name         text not null,
    url          text not null,
    create_path  text not null,
    read_path    text not null,
    headers      text not null,
    template     text not null,
    number_path  text not null,
    state_path   text not null,
    reason_path  text not null,
    states       text not null,
    page_path    text not null,
    secret       text not null,
    poll_seconds int not null check (poll_seconds between 1 and 3600),
    version      int not null default 1
);

create table handoff (
    id            uuid primary key,
    case_id       bigint not null references work_case (id),
    team_id       bigint not null references team (id),
    connection_id bigint not null references desk_connection (id),
    title         text not null,
    story         text not null,
    body          text not null,
    state         text not null check (state in ('QUEUED', 'SENT', 'ACCEPTED', 'RETURNED', 'DONE', 'GIVEN_UP')),
    ticket        text not null default '',
    reason        text not null default '',
    made_at       timestamptz not null,
    made_by       bigint not null references person (id),
    changed_at    timestamptz not null,
    first_try     timestamptz,
    next_try      timestamptz,
    failures      int not null default 0,
    last_error    text not null default ''
);
create index handoff_by_case on handoff (case_id);
create index handoff_open on handoff (changed_at desc) where state in ('QUEUED', 'SENT', 'ACCEPTED', 'RETURNED', 'GIVEN_UP');
create index handoff_by_ticket on handoff (connection_id, ticket);
create index handoff_recent on handoff (changed_at desc);

create table handoff_attempt (
    handoff_id uuid not null references handoff (id),
    at         timestamptz not null,
    delivered  boolean not null,
    words      text not null
);
create index handoff_attempt_by_handoff on handoff_attempt (handoff_id, at);

create table delivery (
    id         uuid primary key,
    case_id    bigint not null references work_case (id),
    team_id    bigint not null references team (id),
    about      text not null check (about in ('OPENED', 'OVER')),
    recipient  text not null,
    subject    text not null,
    body       text not null,
    state      text not null check (state in ('WAITING', 'SENT', 'GIVEN_UP')),
    made_at    timestamptz not null,
    sent_at    timestamptz,
    first_try  timestamptz,
    next_try   timestamptz,
    failures   int not null default 0,
    last_error text not null default ''
);
create index delivery_by_case on delivery (case_id);
create index delivery_open on delivery (made_at) where state <> 'SENT';
create index delivery_recent on delivery (made_at desc);

-- As db-scheduler has it for PostgreSQL.
create table scheduled_tasks (
    task_name            text not null,
    task_instance        text not null,
    task_data            bytea,
    execution_time       timestamp with time zone not null,
    picked               boolean not null,
    picked_by            text,
    last_success         timestamp with time zone,
    last_failure         timestamp with time zone,
    consecutive_failures int,
    last_heartbeat       timestamp with time zone,
    version              bigint not null,
    priority             smallint,
    primary key (task_name, task_instance)
);
create index scheduled_tasks_by_time on scheduled_tasks (execution_time);
create index scheduled_tasks_by_heartbeat on scheduled_tasks (last_heartbeat);
