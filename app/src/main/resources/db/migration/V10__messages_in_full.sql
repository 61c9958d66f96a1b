-- Sorting rules, in order of place; the catch-all is the one without conditions and stands last.
create table sorting_rule (
    id           bigint generated always as identity primary key,
    place        int     not null,
    name         text    not null,
    criteria     jsonb   not null,
    severity     text    not null check (severity in ('NOTICE', 'WARNING', 'CRITICAL')),
    owner_id     bigint references team (id),
    fix_note     text    not null,
    alerts       boolean not null,
    fold_by      text    not null check (fold_by in ('FAMILY', 'RULE', 'BUSINESS_KEY')),
    fold_minutes int     not null check (fold_minutes between 1 and 43200),
    send_again   boolean not null,
    explained_by text[]  not null default '{}',
    deleted      boolean not null default false,
    last_took    timestamptz,
    stopped      bigint  not null default 0,
    stopped_at   timestamptz,
    made_at      timestamptz not null default now()
);
create unique index sorting_rule_by_name on sorting_rule (name) where not deleted;
-- One row: every change of the list makes it a version higher, so that two people do not change it over each other.
create table sorting_list (
    version    int not null,
    changed_at timestamptz not null,
    changed_by bigint references person (id)
);
insert into sorting_list (version, changed_at) values (1, now());
insert into sorting_rule (place, name, criteria, severity, fix_note, alerts, fold_by, fold_minutes, send_again)
values (1000000, 'Everything else', '{"conditions": []}', 'NOTICE', '', true, 'FAMILY', 240, false);

-- What people did about failed messages, and Morvet for them.
create table dealing (
    id        bigint generated always as identity primary key,
    at        timestamptz not null,
    person_id bigint references person (id),
    kind      text not null check (kind in ('DEALT', 'HANDED_OFF', 'SENT_AGAIN', 'SETTLED')),
    reason    text not null,
    note      text not null,
    messages  bigint not null,
    case_id   bigint references work_case (id),
    undone_at timestamptz
);

alter table failed_message add column rule_id bigint references sorting_rule (id);
-- The middleware's own id of the message, the same for every time that it is tried.
alter table failed_message add column message_ref text not null default '';
-- Whether it still wants somebody: its rule alerts, and nobody has dealt with it.
alter table failed_message add column open boolean not null default false;
alter table failed_message add column dealing_id bigint references dealing (id);
alter table failed_message add column repeats int not null default 0;
alter table failed_message add column last_failed timestamptz;
alter table failed_message add column steps jsonb not null default '[]';
-- A payload that is no text.
alter table failed_message add column payload_bytes bytea;
create index failed_message_by_dealing on failed_message (dealing_id) where dealing_id is not null;
create index failed_message_open on failed_message (component_id, family_id, at) where open;

-- Each time that a message which was sent again failed anew.
create table failed_again (
    at       timestamptz not null,
    id       bigint      not null,
    failed_at timestamptz not null,
    event_id text        not null,
    step     text        not null,
    error    text        not null,
    primary key (at, id, event_id)
);

-- Messages that were sent again, so that one which comes back is known.
create table sent_again (
    feed_id     bigint not null references feed (id),
    message_ref text   not null,
    at          timestamptz not null,
    id          bigint not null,
    primary key (feed_id, message_ref)
);

create table message_attachment (
    at      timestamptz not null,
    id      bigint      not null,
    place   int         not null,
    name    text        not null,
    type    text        not null,
    content bytea       not null,
    primary key (at, id, place)
) partition by range (at);

-- What can be searched, masked; filled a moment after the message is stored (WordIndexing).
create table message_words (
    at    timestamptz not null,
    id    bigint      not null,
    words tsvector    not null,
    primary key (at, id)
) partition by range (at);
create index message_words_by_word on message_words using gin (words);

-- Work that is put down with the message and done right after it: to tell the failure, and to make it searchable.
create table untold_failure (
    id     bigint      not null,
    at     timestamptz not null,
    repeat boolean     not null default false
);
create table unread_failure (
    id   bigint      not null,
    at   timestamptz not null,
    -- Read before; the masks have changed since.
    anew boolean     not null default false
);

-- Alerts of failed messages that are up, by what folds into one.
create table failure_fold (
    rule_id      bigint not null references sorting_rule (id),
    fold_key     text   not null,
    component_id bigint not null references component (id),
    family_id    bigint not null references failure_family (id),
    raised_at    timestamptz not null,
    last_at      timestamptz not null,
    failures     bigint not null,
    primary key (rule_id, fold_key)
);
alter table alert alter column guard_id drop not null;
alter table alert add column rule_id bigint references sorting_rule (id);
alter table alert add column family_id bigint references failure_family (id);
alter table alert add constraint alert_source check ((guard_id is null) <> (rule_id is null));
create index alert_by_component on alert (component_id, cleared_at);
create unique index alert_raised_by_rule on alert (group_key, rule_id) where cleared_at is null and rule_id is not null;
alter table case_alert alter column guard_id drop not null;
alter table case_alert add column rule_id bigint references sorting_rule (id);
alter table case_alert add column component_id bigint references component (id);
alter table case_alert add column family_id bigint references failure_family (id);
-- A case about one family, or about one rule on all interfaces; neither where it is about all of a component.
alter table work_case add column family_id bigint references failure_family (id);
alter table work_case add column rule_id bigint references sorting_rule (id);

-- What an interface carried in each hour, added up as it comes in.
create table interface_hour (
    component_id bigint      not null references component (id),
    hour         timestamptz not null,
    delivered    bigint      not null,
    failed       bigint      not null,
    delays       int[]       not null,
    last_carried timestamptz,
    primary key (component_id, hour)
);
create index interface_hour_by_hour on interface_hour (hour);
create table interface_usual (
    component_id bigint primary key references component (id),
    by_hour      double precision[] not null,
    p95          double precision not null,
    made_at      timestamptz not null
);
-- How an interface stood at its middleware, each time that something about it changed.
create table interface_state (
    id           bigint generated always as identity primary key,
    component_id bigint not null references component (id),
    at           timestamptz not null,
    state        text not null check (state in ('running', 'stopped', 'failed to deploy')),
    reason       text not null,
    version      text not null,
    node         text not null,
    event_id     text not null
);
create unique index interface_state_by_event on interface_state (component_id, at, event_id);
create index interface_state_latest on interface_state (component_id, at desc, id desc);
-- Between whom an interface carries: keys of applications, or names of parties outside.
create table interface_ends (
    component_id bigint primary key references component (id),
    from_party   text not null,
    to_party     text not null
);

-- What is hidden in messages.
create table mask (
    id         bigint generated always as identity primary key,
    name       text   not null,
    interfaces text[] not null,
    path       text   not null,
    pattern    text   not null,
    check ((path = '') <> (pattern = ''))
);

create table saved_search (
    id        bigint generated always as identity primary key,
    name      text not null unique,
    person_id bigint not null references person (id),
    query     jsonb not null,
    measure   text
);

-- Where the middleware of a feed takes orders.
create table middleware (
    feed_id  bigint primary key references feed (id),
    url      text not null,
    send_path text not null,
    headers  text not null,
    version  int not null default 1
);
create table sending_run (
    id         bigint generated always as identity primary key,
    made_at    timestamptz not null,
    person_id  bigint not null references person (id),
    about      text not null,
    per_minute int not null check (per_minute between 1 and 6000),
    state      text not null check (state in ('RUNNING', 'PAUSED', 'STOPPED', 'DONE')),
    ended_at   timestamptz,
    trouble    text not null default '',
    tries      int  not null default 0,
    dealing_id bigint references dealing (id)
);
create table sending_item (
    run_id       bigint not null references sending_run (id),
    place        int    not null,
    message_at   timestamptz not null,
    message_id   bigint not null,
    component_id bigint not null references component (id),
    feed_id      bigint not null references feed (id),
    message_ref  text   not null,
    business_key text   not null,
    state        text   not null check (state in ('WAITING', 'SENT', 'DELIVERED', 'FAILED', 'HELD_BACK', 'REFUSED', 'NOT_SENT')),
    words        text   not null default '',
    tried_at     timestamptz,
    primary key (run_id, place)
);
create index sending_item_open on sending_item (run_id, state, place);
create index sending_item_of_message on sending_item (message_at, message_id);
