-- The estate in full: kinds of components, what stands on what, feeds that Morvet fetches.
alter table component drop constraint component_kind_check;
alter table component add constraint component_kind_check check (kind in
    ('host', 'instance', 'service', 'interface', 'job', 'endpoint', 'queue', 'certificate', 'licence', 'vendor instance', 'component'));
alter table component add column stands_on bigint references component (id);
create index component_by_application on component (application_id);
create index component_standing_on on component (stands_on);

create table dependency (
    component_id bigint not null references component (id),
    needs        bigint not null references component (id),
    primary key (component_id, needs),
    check (component_id <> needs)
);

-- fetch_url is null where the feed sends by itself.
alter table feed add column fetch_url text;
alter table feed add column failing_since timestamptz;
alter table feed add column failure text not null default '';

create table measure (
    id   bigint generated always as identity primary key,
    name text not null unique,
    sort text not null check (sort in ('GAUGE', 'COUNTER', 'COUNT')),
    unit text not null,
    help text not null
);
insert into measure (name, sort, unit, help) values ('failed_messages', 'COUNT', '', 'Messages that an interface could not deliver.');

create table series (
    id           bigint generated always as identity primary key,
    component_id bigint not null references component (id),
    measure_id   bigint not null references measure (id),
    labels       jsonb  not null,
    feed_id      bigint references feed (id),
    first_seen   timestamptz not null,
    unique (component_id, measure_id, labels)
);
create index series_by_measure on series (measure_id);

-- Bulk: day partitions, made when the first reading of a day arrives. A day that is over is sealed: its readings move into
-- one packed row a series.
create table reading (
    series_id bigint not null,
    at        timestamptz not null,
    value     double precision not null,
    primary key (series_id, at)
) partition by range (at);

create table sealed_day (
    series_id bigint not null,
    day       timestamptz not null,
    readings  int not null,
    packed    bytea not null,
    primary key (series_id, day)
) partition by range (day);

-- The last buckets of a histogram, from which the next page's percentiles are reckoned.
create table histogram_base (
    series_key text primary key,
    bounds     double precision[] not null,
    counts     double precision[] not null
);
