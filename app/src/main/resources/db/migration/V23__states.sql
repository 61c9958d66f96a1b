-- A state is a measure whose readings are places of its words; the words stand in its unit, and more come at the end.
alter table measure drop constraint measure_sort_check;
alter table measure add constraint measure_sort_check check (sort in ('GAUGE', 'COUNTER', 'COUNT', 'STATE'));

-- Whether it is told only when it changes, and stands until then; else it is promised as often as its feed is.
alter table series add column told_on_change boolean not null default false;

-- How often it is promised itself, in seconds; null where that is as often as its feed is.
alter table series add column promised int check (promised > 0);

-- What each state was last heard to be.
create table state_now (
    series_id bigint      not null primary key references series,
    place     int         not null,
    since     timestamptz not null,
    heard_at  timestamptz not null
);

-- When a state became another, and what it said beside its word when that was worth keeping.
create table state_change (
    series_id bigint      not null references series,
    at        timestamptz not null,
    place     int         not null,
    -- False where only what it said is kept.
    changed   boolean     not null,
    said      text        not null default '',
    said_by   bigint      references feed,
    primary key (series_id, at)
);
create index state_change_by_time on state_change (at);
create index state_change_said on state_change (said_by, at) where said_by is not null;
