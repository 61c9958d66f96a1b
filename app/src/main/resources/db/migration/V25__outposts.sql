-- What a check looks at is kept as it was written into the holes of its kind's sentence.
alter table outside_check drop constraint outside_check_kind_check;
alter table outside_check rename column target to fields;
update outside_check
   set fields = jsonb_strip_nulls(jsonb_build_object(
           'method', fields ->> 'method', 'url', fields ->> 'url', 'body', fields ->> 'body', 'codes', fields ->> 'codes',
           'within', (fields ->> 'withinMillis') || ' ms', 'expected', fields ->> 'expected',
           'follow', case when (fields ->> 'follow') = 'true' then 'yes' end,
           'host', fields ->> 'host', 'port', fields ->> 'port', 'firstLine', fields ->> 'firstLine', 'days', fields ->> 'days',
           'patience', (fields ->> 'patienceMillis') || ' ms'));
-- Sealed: with what it logs in.
alter table outside_check add column log_in text not null default '';
-- What one run leaves for the next.
alter table outside_check add column memory text not null default '';
-- At which times, where it is not every so often; every_seconds is what it promises then.
alter table outside_check add column cron text not null default '';
alter table outside_check drop constraint outside_check_every_seconds_check;
alter table outside_check add check (every_seconds >= 10);
-- Of several that ask the same, so many must not pass before it counts.
alter table outside_check add column agree int not null default 1 check (agree between 1 and 20);

-- A small program on a host or in a network zone.
create table outpost (
    id            bigint generated always as identity primary key,
    name          text        not null unique,
    component_id  bigint      not null references component,
    feed_id       bigint      not null references feed,
    key_hash      bytea       not null unique,
    made_at       timestamptz not null,
    revoked_at    timestamptz,
    -- What it is wanted to look at, and since when.
    wanted        text        not null default '',
    wanted_at     timestamptz,
    look_again    boolean     not null default false,
    -- What it said of itself last.
    heard_at      timestamptz,
    program       text        not null default '',
    host          text        not null default '',
    system        text        not null default '',
    brief         text        not null default '',
    brief_at      timestamptz,
    skew_ms       bigint      not null default 0,
    waiting       bigint      not null default 0,
    dropped       bigint      not null default 0,
    offers        jsonb       not null default '[]',
    may           jsonb       not null default '{}',
    faults        jsonb       not null default '[]',
    -- Until when somebody looks at its processes, and how they were last.
    watched_until timestamptz,
    processes     jsonb,
    -- How far of what it keeps has been taken: nothing is taken twice.
    spool         text        not null default '',
    taken_to      bigint      not null default 0
);

-- What is asked of all outposts, of those of a group of components, of one.
create table outpost_ask (
    id            bigint generated always as identity primary key,
    group_id      bigint references component_group on delete cascade,
    outpost_id    bigint references outpost on delete cascade,
    what          text    not null,
    of            text    not null default '',
    every_seconds int     not null check (every_seconds between 5 and 86400),
    active        boolean not null,
    check (group_id is null or outpost_id is null)
);
create unique index outpost_ask_once on outpost_ask (coalesce(group_id, 0), coalesce(outpost_id, 0), what);

-- From where a check looks; without any from Morvet itself.
create table check_from (
    check_id   bigint not null references outside_check on delete cascade,
    outpost_id bigint not null references outpost,
    last_at    timestamptz,
    last_state text,
    last_why   text not null default '',
    primary key (check_id, outpost_id)
);
create index check_from_outpost on check_from (outpost_id);

-- Something that somebody wants done on a host.
create table host_order (
    id           bigint generated always as identity primary key,
    outpost_id   bigint      not null references outpost,
    action       text        not null,
    arguments    jsonb       not null default '{}',
    component_id bigint      not null references component,
    case_id      bigint      references work_case,
    -- Who asks; a guard where nobody does.
    by_id        bigint      references person,
    guard_id     bigint,
    state        text        not null check (state in ('ASKED', 'FETCHED', 'DONE', 'FAILED', 'REFUSED', 'LAPSED', 'UNKNOWN')),
    words        text        not null default '',
    asked_at     timestamptz not null,
    fetched_at   timestamptz,
    done_at      timestamptz
);
create index host_order_open on host_order (outpost_id) where state in ('ASKED', 'FETCHED');
create index host_order_of on host_order (component_id, id);
create index host_order_case on host_order (case_id) where case_id is not null;

-- What Morvet sees itself, by its checks, is told by no feed.
alter table observed_change alter column feed_id drop not null;

-- What a guard has done by itself when it raises an alert, at most so often.
create table guard_action (
    guard_id       bigint      primary key references guard on delete cascade,
    action         text        not null,
    arguments      jsonb       not null default '{}',
    at_most        int         not null check (at_most between 1 and 100),
    within_seconds int         not null check (within_seconds between 60 and 604800),
    set_by         bigint      not null references person,
    set_at         timestamptz not null
);
-- The alert for which a guard had it done, and whether it was said what came of it.
alter table host_order add column alert_id bigint;
alter table host_order add column judged boolean not null default false;
create index host_order_of_guard on host_order (guard_id, asked_at) where guard_id is not null;

-- Whether it was ever in another state: what is in its first one has not changed.
alter table state_now add column became boolean not null default true;
alter table state_now alter column became drop default;

-- A check that is tried by hand from an outpost, until it has told what came of it.
create table check_try (
    id         bigint generated always as identity primary key,
    outpost_id bigint      not null references outpost,
    kind       text        not null,
    fields     jsonb       not null,
    -- Sealed.
    headers    text        not null,
    log_in     text        not null,
    asked_at   timestamptz not null,
    result     jsonb
);
create index check_try_open on check_try (outpost_id) where result is null;

-- Something that is done by a web call, with arguments of a listed set.
create table web_action (
    id           bigint generated always as identity primary key,
    name         text   not null unique,
    component_id bigint not null references component,
    lowest_role  text   not null check (lowest_role in ('analyst', 'lead', 'admin')),
    url          text   not null,
    -- Sealed: they may hold secrets.
    headers      text   not null,
    -- With {name} for an argument.
    body         text   not null,
    arguments    jsonb  not null,
    -- Where the figure is read that it changes, before and after; empty where none is.
    figure_url   text   not null,
    figure_path  text   not null,
    version      int    not null
);
alter table host_order alter column outpost_id drop not null;
alter table host_order add column web_action_id bigint references web_action on delete set null;
