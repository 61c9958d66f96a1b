-- How somebody wishes to be told.
create table call_out_wish (
    person_id  bigint primary key references person,
    first_way  text check (first_way in ('MAIL', 'TEXT')),
    quiet_from time,
    quiet_to   time,
    -- HOUR, DAY or WEEK of what is not critical; null is at once.
    digest     text check (digest in ('HOUR', 'DAY', 'WEEK')),
    digest_day smallint not null default 1 check (digest_day between 1 and 7),
    digest_at  time     not null default '07:00'
);

-- Whether somebody is reached where they say: a code goes there, and they type it here.
create table reach_check (
    person_id   bigint      not null references person,
    way         text        not null check (way in ('MAIL', 'TEXT')),
    address     text        not null,
    code_hash   bytea       not null,
    sent_at     timestamptz not null,
    tries       int         not null default 0,
    verified_at timestamptz,
    primary key (person_id, way)
);

-- What waits because whoever is told wishes so; it is not told any more where nothing is left to take by then.
alter table delivery add column deferred boolean not null default false;

-- A second factor (RFC 6238): what the telephone knows as well, sealed; until it is confirmed it is asked of nobody.
create table second_factor (
    person_id    bigint primary key references person,
    secret       text        not null,
    made_at      timestamptz not null,
    confirmed_at timestamptz,
    -- The step of time whose code was taken last: none is taken twice.
    last_step    bigint      not null default 0
);
create table recovery_code (
    person_id bigint not null references second_factor on delete cascade,
    code_hash bytea  not null,
    primary key (person_id, code_hash)
);

-- Who somebody is who logs in elsewhere: the issuer and what it calls them, which stays.
alter table person add column open_id text unique;

-- What was up in the last hours, over the whole estate.
create index alert_cleared on alert (cleared_at) where cleared_at is not null;

-- Who took over when.
create table shift_taken (
    id        bigint generated always as identity primary key,
    person_id bigint      not null references person,
    at        timestamptz not null
);
create index shift_taken_by_time on shift_taken (at);

-- What people write into the log of the shift.
create table shift_note (
    id        bigint generated always as identity primary key,
    at        timestamptz not null,
    person_id bigint      not null references person,
    words     text        not null,
    -- Whether the next shift is told.
    handover  boolean     not null default false,
    -- When it comes back to the now line, until somebody is done with it.
    remind_at timestamptz,
    done_at   timestamptz,
    done_by   bigint references person
);
create index shift_note_by_time on shift_note (at);
create index shift_note_to_remind on shift_note (remind_at) where remind_at is not null and done_at is null;

-- What a shift gives the next, in versions; whoever takes over has read the last.
create table handover (
    id       bigint generated always as identity primary key,
    begun_at timestamptz not null,
    taken_at timestamptz,
    taken_by bigint references person
);
create table handover_version (
    handover_id bigint      not null references handover on delete cascade,
    version     int         not null,
    at          timestamptz not null,
    person_id   bigint      not null references person,
    words       text        not null,
    primary key (handover_id, version)
);

create index case_entry_by_time on case_entry (at);
create index audit_entry_by_time on audit_entry (at);

-- The case of which another turned out to be a part.
alter table work_case add column joined_to bigint references work_case;

-- What is told that is no case.
alter table delivery
    drop constraint delivery_about_check,
    add constraint delivery_about_check check (about in
        ('OPENED', 'LATE', 'RETURNED', 'UNHEARD', 'EXPLAINS', 'OVER', 'WINDOW', 'VENDOR', 'DIGEST', 'SIGN', 'TEST', 'NEWS', 'NOT_ACCEPTED'));
alter table call_out_course
    drop constraint call_out_course_happened_check,
    add constraint call_out_course_happened_check check (happened in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED', 'OVER'));
alter table call_out_digest
    drop constraint call_out_digest_happened_check,
    add constraint call_out_digest_happened_check check (happened in ('OPENED', 'LATE', 'RETURNED', 'NOT_ACCEPTED', 'OVER'));

-- Screens on walls, that nobody logs in on: a key that reads the shift and nothing else.
create table wall_key (
    id         bigint generated always as identity primary key,
    name       text        not null,
    key_hash   bytea       not null unique,
    made_at    timestamptz not null,
    revoked_at timestamptz
);
