-- Who can be reached how, who is in which team, and who is on duty when.
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check check (role in ('MEMBER', 'ANALYST', 'LEAD', 'ADMIN'));
alter table person
    add column mail text not null default '',
    add column phone text not null default '',
    -- Whoever is not does not log in, and is offered nowhere.
    add column active boolean not null default true;

create table team_member (
    team_id   bigint not null references team,
    person_id bigint not null references person,
    primary key (team_id, person_id)
);
create index team_member_by_person on team_member (person_id);

create table rota (
    team_id bigint primary key references team,
    zone    text not null,
    -- Counts its changes.
    version int  not null default 1
);

-- How turns are taken in a line, from a day on.
create table rota_turns (
    id       bigint generated always as identity primary key,
    team_id  bigint   not null references rota,
    line     smallint not null check (line between 0 and 2),
    from_day date     not null,
    at       time     not null,
    every    text     not null check (every in ('HOURS', 'DAYS', 'WEEKS')),
    count    int      not null,
    people   bigint[] not null,
    -- When one of them can be called at all; null for around the clock.
    days     int[],
    hours_from time,
    hours_to   time,
    unique (team_id, line, from_day)
);

-- What is otherwise than by turns for a while, in the order in which it was said.
create table rota_change (
    id       bigint generated always as identity primary key,
    team_id  bigint      not null references rota,
    kind     text        not null check (kind in ('AWAY', 'COVERS')),
    person_id bigint     not null references person,
    line     smallint    not null,
    from_at  timestamptz not null,
    to_at    timestamptz not null check (to_at > from_at),
    by_id    bigint references person
);
create index rota_change_by_team on rota_change (team_id, to_at);
