-- When an event came that bears no time of its own, so that it has the same time when it is sent again.
create table timeless_event (
  feed_id  bigint not null references feed (id),
  event_id text not null,
  at       timestamptz not null,
  primary key (feed_id, event_id)
);
create index timeless_event_by_age on timeless_event (at);
