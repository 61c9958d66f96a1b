-- Several nodes on one database: which of them live, and who does what only one may do at a time.
create table live_node (
    id    text primary key,
    until timestamptz not null
);

create table lease (
    name   text        not null,
    part   int         not null,
    holder text        not null default '',
    -- Counts the takings: who writes under a lease says with which of them it was taken.
    epoch  bigint      not null default 0,
    until  timestamptz not null default '-infinity',
    primary key (name, part)
) with (fillfactor = 50);

-- What was taken in on any node and is to be judged, in the order of the transactions that stored it. It is kept for a
-- minute or two, and after a crash of the database guards read from the readings themselves, so it need not be logged.
create unlogged table arrival (
    tx       xid8        not null default pg_current_xact_id(),
    at       timestamptz not null default clock_timestamp(),
    failures boolean     not null,
    rows     bytea       not null
) with (autovacuum_vacuum_scale_factor = 0, autovacuum_vacuum_threshold = 500);
alter table arrival alter column rows set storage external;
create index arrival_by_tx on arrival (tx);

-- What is doubtful about a guard, as found in the background.
create table guard_doubt (
    guard_id bigint primary key references guard,
    version  int    not null,
    said     text[] not null
);
