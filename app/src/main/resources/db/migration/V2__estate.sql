create table team (
    id   bigint generated always as identity primary key,
    key  text not null unique,
    name text not null,
    mail text not null
);

create table application (
    id          bigint generated always as identity primary key,
    key         text not null unique,
    name        text not null,
    tier        int  not null check (tier between 1 and 4),
    environment text not null check (environment in ('production', 'rehearsal', 'development')),
    team_id     bigint not null references team (id)
);

-- A component without an application came in by itself and is not yet assigned.
create table component (
    id             bigint generated always as identity primary key,
    key            text not null unique,
    name           text not null,
    kind           text not null check (kind in ('interface')),
    application_id bigint references application (id),
    first_seen     timestamptz not null
);

create table feed (
    id         bigint generated always as identity primary key,
    key        text not null unique,
    name       text not null,
    cadence    interval not null,
    last_heard timestamptz
);

create table intake_key (
    id         bigint generated always as identity primary key,
    name       text not null,
    feed_id    bigint not null references feed (id),
    key_hash   bytea not null unique,
    made_at    timestamptz not null,
    revoked_at timestamptz
);
