-- Guards stand over series now; a subject is still the component of the series.
alter table guard add column owner_id bigint references team (id);

create table guard_version (
    guard_id bigint not null references guard (id),
    version  int not null,
    at       timestamptz not null,
    by_id    bigint references person (id),
    name     text not null,
    active   boolean not null,
    watched  jsonb not null,
    rule     jsonb not null,
    fix_note text not null,
    owner_id bigint references team (id),
    deleted  boolean not null default false,
    primary key (guard_id, version)
);

-- What was watched before: interfaces and their failed messages.
update guard set watched = jsonb_build_object('measure', 'failed_messages') ||
    case when watched ? 'application' then jsonb_build_object('application', watched -> 'application', 'kind', 'interface')
         when watched ? 'interface' then jsonb_build_object('name', watched -> 'interface', 'kind', 'interface')
         else jsonb_build_object('kind', 'interface') end;
update guard set rule = rule || '{"fold": "sum", "side": "above"}';
insert into guard_version (guard_id, version, at, by_id, name, active, watched, rule, fix_note)
select id, version, changed_at, changed_by, name, active, watched, rule, fix_note from guard;

drop table guard_state;
create table guard_state (
    guard_id     bigint not null references guard (id),
    series_id    bigint not null references series (id),
    evaluated_to timestamptz not null,
    known        boolean not null,
    level        text check (level in ('NOTICE', 'WARNING', 'CRITICAL')),
    raised_at    timestamptz,
    calm_since   timestamptz,
    clear_since  timestamptz,
    value        double precision not null,
    worst        double precision not null,
    flaps        boolean not null,
    raises       timestamptz[] not null,
    primary key (guard_id, series_id)
);

-- An alert belongs to a group of series: one component, one value of a label, one application, or the whole guard.
drop index alert_raised;
alter table alert add column group_key text not null default '';
update alert set group_key = 'c' || component_id;
alter table alert add column series_id bigint references series (id);
alter table alert add column flaps boolean not null default false;
alter table alert add column words text not null default '';
create unique index alert_raised on alert (guard_id, group_key) where cleared_at is null;

alter table case_alert add column words text not null default '';
alter table case_alert add column flaps boolean not null default false;
