-- What Morvet asks of things outside itself.
create table outside_check (
    id            bigint generated always as identity primary key,
    name          text        not null unique,
    component_id  bigint      not null references component,
    every_seconds int         not null check (every_seconds between 10 and 86400),
    tries         int         not null check (tries between 1 and 5),
    kind          text        not null check (kind in ('http', 'port', 'certificate')),
    target        jsonb       not null,
    -- Sealed: they may hold secrets.
    headers       text        not null default '',
    active        boolean     not null,
    version       int         not null,
    next_at       timestamptz not null,
    -- What came of it last.
    last_at       timestamptz,
    last_state    text,
    last_took_ms  int,
    last_why      text        not null default '',
    -- What it said when it passed last.
    passed_at     timestamptz,
    passed_said   text        not null default ''
);
create index outside_check_due on outside_check (next_at) where active;
