create table person (
    id            bigint generated always as identity primary key,
    login         text not null unique check (login = lower(login)),
    name          text not null,
    password_hash text not null,
    role          text not null check (role in ('ANALYST', 'LEAD', 'ADMIN'))
);

create table login_failure (
    login text        not null,
    at    timestamptz not null
);
create index login_failure_by_login on login_failure (login, at);

create table audit_entry (
    id        bigint generated always as identity primary key,
    at        timestamptz not null,
    person_id bigint references person (id),
    what      text not null,
    subject   text not null,
    before    text,
    after     text
);

-- As Spring Session has it (spring-session-jdbc, schema-postgresql.sql).
create table spring_session (
    primary_id            char(36) not null primary key,
    session_id            char(36) not null,
    creation_time         bigint   not null,
    last_access_time      bigint   not null,
    max_inactive_interval int      not null,
    expiry_time           bigint   not null,
    principal_name        varchar(100)
);
create unique index spring_session_ix1 on spring_session (session_id);
create index spring_session_ix2 on spring_session (expiry_time);
create index spring_session_ix3 on spring_session (principal_name);

create table spring_session_attributes (
    session_primary_id char(36)     not null references spring_session (primary_id) on delete cascade,
    attribute_name     varchar(200) not null,
    attribute_bytes    bytea        not null,
    primary key (session_primary_id, attribute_name)
);
