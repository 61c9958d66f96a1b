-- What is agreed of an instance that is rented from a vendor.
create table vendor_instance (
    component_id bigint primary key references component,
    vendor       text          not null,
    -- The share of a month in which it is to serve, in per cent; 0 where nothing is agreed.
    agreed       numeric(6, 3) not null,
    -- Where tickets to the vendor go; empty where it has no mail.
    mail         text          not null,
    -- Whether its planned work becomes a window by itself.
    by_itself    boolean       not null,
    version      int           not null default 1
);

-- What came of each look at a feed.
create table vendor_poll (
    connection_id bigint      not null references outside_connection on delete cascade,
    at            timestamptz not null,
    millis        int         not null,
    -- Faults, a line each; empty where all was read as the settings say.
    faults        text        not null,
    primary key (connection_id, at)
);
create index vendor_poll_by_time on vendor_poll (at);

-- What a vendor writes, as it stands now.
create table vendor_bulletin (
    id            bigint generated always as identity primary key,
    component_id  bigint      not null references component,
    connection_id bigint      not null references outside_connection on delete cascade,
    key           text        not null,
    planned       boolean     not null,
    title         text        not null,
    text          text        not null,
    from_at       timestamptz,
    to_at         timestamptz,
    is_over       boolean     not null,
    parts         jsonb       not null,
    first_seen    timestamptz not null,
    last_seen     timestamptz not null,
    -- Since when the feed does not have it any more.
    gone_at       timestamptz,
    version       int         not null default 1,
    unique (connection_id, key)
);
create index vendor_bulletin_by_component on vendor_bulletin (component_id, first_seen desc);

create table vendor_bulletin_version (
    bulletin_id bigint      not null references vendor_bulletin on delete cascade,
    version     int         not null,
    at          timestamptz not null,
    planned     boolean     not null,
    title       text        not null,
    text        text        not null,
    from_at     timestamptz,
    to_at       timestamptz,
    is_over     boolean     not null,
    primary key (bulletin_id, version)
);

-- What becomes of planned work of vendors.
create table vendor_work (
    bulletin_id bigint primary key references vendor_bulletin on delete cascade,
    state       text not null check (state in ('PROPOSED', 'ACCEPTED', 'DECLINED', 'WITHDRAWN')),
    window_id   bigint references maintenance_window,
    decided_by  bigint references person,
    decided_at  timestamptz
);

-- What was written to vendors.
create table vendor_ticket (
    id           uuid primary key,
    component_id bigint      not null references component,
    recipient    text        not null,
    subject      text        not null,
    body         text        not null,
    by_id        bigint      not null references person,
    at           timestamptz not null,
    state        text        not null check (state in ('waiting', 'sent', 'given up')),
    failures     int         not null,
    why          text        not null
);
create index vendor_ticket_by_component on vendor_ticket (component_id, at desc);
