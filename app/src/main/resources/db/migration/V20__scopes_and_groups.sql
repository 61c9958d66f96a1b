-- Over which part of the estate guards over runs and windows stand is said in one way, as guards have it.
alter table run_guard add column over jsonb;
alter table job_window add column over jsonb;

update run_guard set over = case scope
    when 'ALL' then '{}'::jsonb
    when 'APPLICATION' then jsonb_build_object('kind', 'job', 'application', scope_name)
    when 'CHAIN' then jsonb_build_object('kind', 'job', 'chain', scope_name)
    when 'JOB' then jsonb_build_object('kind', 'job', 'name', scope_name) end;
update job_window set over = case scope
    when 'ALL' then '{}'::jsonb
    when 'APPLICATION' then jsonb_build_object('kind', 'job', 'application', scope_name)
    when 'CHAIN' then jsonb_build_object('kind', 'job', 'chain', scope_name)
    when 'JOB' then jsonb_build_object('kind', 'job', 'name', scope_name) end;

alter table run_guard alter column over set not null, drop column scope, drop column scope_name;
alter table job_window alter column over set not null, drop column scope, drop column scope_name;

-- Groups of components, put together by hand, by a rule, or by both.
create table component_group (
    id       bigint generated always as identity primary key,
    name     text    not null unique check (name <> '' and length(name) <= 100),
    contact  text    not null check (length(contact) <= 200),
    rule     jsonb,
    version  integer not null default 1
);

create table component_group_member (
    group_id     bigint not null references component_group on delete cascade,
    component_id bigint not null references component,
    primary key (group_id, component_id)
);
create index component_group_member_component on component_group_member (component_id);
