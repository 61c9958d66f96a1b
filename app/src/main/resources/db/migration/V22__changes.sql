-- What became different about components: told by events, or seen by what they say of themselves.
create table observed_change (
    id           bigint generated always as identity primary key,
    at           timestamptz not null,
    component_id bigint      not null references component,
    feed_id      bigint      not null references feed,
    -- The sender's id; empty where it was seen.
    event_id     text        not null default '',
    what         text        not null,
    name         text        not null,
    before       text        not null,
    after        text        not null,
    by_whom      text        not null,
    note         text        not null
);
create unique index observed_change_told_once on observed_change (feed_id, event_id) where event_id <> '';
create index observed_change_by_component on observed_change (component_id, at desc);
create index observed_change_by_time on observed_change (at desc, id desc);

-- What components say of themselves, as it was said last.
create table component_info (
    component_id bigint      not null references component,
    name         text        not null,
    labels       jsonb       not null,
    since        timestamptz not null,
    primary key (component_id, name)
);
