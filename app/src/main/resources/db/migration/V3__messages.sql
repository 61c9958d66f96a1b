-- Both tables stand in day partitions, made when the first row of a day arrives (MessageStore). The unique key makes an
-- event that is sent twice count once; it must name the partition key, so a repeat is one with the same id and time.
create sequence failed_message_id;
create table failed_message (
    id           bigint      not null default nextval('failed_message_id'),
    at           timestamptz not null,
    component_id bigint      not null references component (id),
    feed_id      bigint      not null references feed (id),
    event_id     text        not null,
    business_key text        not null,
    step         text        not null,
    error        text        not null,
    attributes   jsonb       not null,
    payload_type text        not null,
    payload      text        not null,
    primary key (at, id),
    unique (event_id, feed_id, at)
) partition by range (at);
create index failed_message_by_component on failed_message (component_id, at, id);
create index failed_message_by_key on failed_message (business_key);

create table carried_count (
    from_at      timestamptz not null,
    to_at        timestamptz not null,
    component_id bigint      not null references component (id),
    feed_id      bigint      not null references feed (id),
    event_id     text        not null,
    delivered    int         not null check (delivered >= 0),
    unique (event_id, feed_id, from_at)
) partition by range (from_at);
create index carried_count_by_component on carried_count (component_id, from_at);

create table rejected_event (
    id          bigint generated always as identity primary key,
    received_at timestamptz not null,
    feed_id     bigint not null references feed (id),
    place       int  not null,
    event_id    text not null,
    reason      text not null,
    body        text not null
);
create index rejected_event_by_time on rejected_event (received_at desc);
